/** Half of all is as much as the scale shows; more stands at its end. */
const most = 0.5;
const marks = [0.1, 0.2];
const at = (share: number) => `${(Math.min(Math.max(share, 0), most) / most) * 100}%`;

/** What a column of gaps is headed by. */
export function GapScale() {
  return (
    <span className="relative block h-4" aria-label="Missing, with 10 and 20 % marked">
      <span className="absolute left-0">0</span>
      {marks.map((mark) => (
        <span key={mark} className="absolute -translate-x-1/2" style={{ left: at(mark) }}>
          {mark * 100} %
        </span>
      ))}
      <span className="absolute right-0">50 %</span>
    </span>
  );
}

interface GapBarProps {
  /** Share that is missing; null for none to be told, below 0 where there are more than expected. */
  gap: number | null | undefined;
  isFinding: boolean;
  /** Too few for any word. */
  isFaint: boolean;
}

/** A gap as a bar on the scale, with the marks of ordinary and of worth looking into. */
export function GapBar({ gap, isFinding, isFaint }: GapBarProps) {
  return (
    <span className="relative block h-4" aria-hidden>
      <span className="absolute inset-x-0 top-1/2 border-t border-line" />
      {marks.map((mark) => (
        <span key={mark} className="absolute inset-y-0 border-l border-line-strong" style={{ left: at(mark) }} />
      ))}
      {gap != null && (
        <span
          className={`absolute top-1/2 left-0 h-1.5 -translate-y-1/2 rounded-r-full ${
            isFinding ? 'bg-warning' : isFaint ? 'bg-line-strong' : 'bg-accent'
          }`}
          style={{ width: at(gap) }}
        />
      )}
    </span>
  );
}
