import type { Notice } from '../api/client';

type Severity = Notice['severity'] | 'good';

const names: Record<Severity, string> = { error: 'Error', warning: 'Warning', info: 'Info', good: 'Ready' };
const colours: Record<Severity, string> = {
  error: 'text-error',
  warning: 'text-warning',
  info: 'text-info',
  good: 'text-good',
};
const order: Notice['severity'][] = ['error', 'warning', 'info'];

/** The gravest severity among notices. */
export function gravest(notices: Notice[]): Notice['severity'] | undefined {
  return order.find((severity) => notices.some((n) => n.severity === severity));
}

/** A mark with a shape of its own besides its colour: octagon, triangle, circle, tick. */
export function SeverityMark({ severity, size = 14 }: { severity: Severity; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      role="img"
      aria-label={names[severity]}
      className={`shrink-0 ${colours[severity]}`}
    >
      {severity === 'error' && (
        <>
          <path d="M5.2 1h5.6L15 5.2v5.6L10.8 15H5.2L1 10.8V5.2z" fill="currentColor" />
          <path d="M5 8h6" stroke="var(--sheet)" strokeWidth="2" />
        </>
      )}
      {severity === 'warning' && (
        <>
          <path d="M8 1.5 15.2 14.5H.8z" fill="currentColor" />
          <path d="M8 6v4M8 11.4v1.4" stroke="var(--sheet)" strokeWidth="1.6" />
        </>
      )}
      {severity === 'info' && (
        <>
          <circle cx="8" cy="8" r="6.2" fill="none" stroke="currentColor" strokeWidth="1.6" />
          <path d="M8 7v4.2M8 4.4V6" stroke="currentColor" strokeWidth="1.6" />
        </>
      )}
      {severity === 'good' && <path d="m2.5 8.5 3.8 3.8 7.2-8" fill="none" stroke="currentColor" strokeWidth="2" />}
    </svg>
  );
}
