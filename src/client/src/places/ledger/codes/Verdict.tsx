import type { Schema } from '../../../api/client';
import { NoticeList } from '../../../parts/NoticeList';
import { SeverityMark } from '../../../parts/SeverityMark';

const marks = { scans: 'good', doubtful: 'warning', unreadable: 'error', unproven: 'info' } as const;
const titles = {
  scans: 'Scans',
  doubtful: 'May not always scan',
  unreadable: 'Doesn’t scan',
  unproven: 'Not tested',
} as const;

/** Whether a code will scan, who says so, and its figures. */
export function Verdict({ code }: { code: Schema['CodeAnswer'] }) {
  const facts = code.facts;
  const verdict = code.verdict as keyof typeof marks;
  const side = facts.modules - 8;
  const more = facts.notices.filter((n) => n.message !== code.sentence);
  return (
    <div className="flex flex-col gap-4">
      <div className="flex gap-2" role="status">
        <span className="mt-0.5">
          <SeverityMark severity={marks[verdict]} size={18} />
        </span>
        <div>
          <p className="font-semibold">{titles[verdict]}</p>
          <p>{code.sentence}</p>
        </div>
      </div>
      {code.trials.length > 0 && (
        <ul className="flex flex-wrap gap-x-5 gap-y-1" aria-label="Read by an independent reader">
          {code.trials.map((trial) => (
            <li key={trial.name} className="flex items-center gap-1.5">
              <SeverityMark severity={trial.reads ? 'good' : 'error'} size={12} /> {trial.name}
            </li>
          ))}
        </ul>
      )}
      {more.length > 0 && <NoticeList notices={more} />}
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 tabular-nums">
        <Fact name="Says" value={<span className="font-mono text-xs break-all">{facts.says}</span>} />
        <Fact
          name="Modules"
          value={`${side} × ${side} (version ${facts.version}, ${facts.correction.toUpperCase()}), ${facts.moduleMillimetres} mm each`}
        />
        <Fact
          name="In dots"
          value={`${facts.dotsPerModule} to a module, ${facts.dots} in all: ${facts.trueMillimetres} mm`}
        />
        <Fact name="Read from" value={distance(facts.readingMillimetres)} />
        <Fact name="Contrast" value={`${facts.contrast} to 1`} />
        {facts.logoRepairable != null && (
          <Fact
            name="Under the logo"
            value={`${facts.logoLost} codewords of one block; ${facts.logoRepairable} can be put right`}
          />
        )}
      </dl>
    </div>
  );
}

function Fact({ name, value }: { name: string; value: React.ReactNode }) {
  return (
    <>
      <dt className="text-quiet">{name}</dt>
      <dd>{value}</dd>
    </>
  );
}

/** A distance people can picture: centimetres up to a metre, metres beyond. */
function distance(millimetres: number): string {
  return millimetres < 1_000
    ? `about ${Math.round(millimetres / 10)} cm`
    : `about ${(millimetres / 1_000).toFixed(1)} m`;
}
