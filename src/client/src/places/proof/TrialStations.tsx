import { SeverityMark } from '../../parts/SeverityMark';
import { stepNames, stepSays, type Trial } from './trial';

const states = { waiting: 'not yet', done: 'done', failed: 'failed' } as const;

/** The four steps of a trial as stations on a route: each lights up as it happens. */
export function TrialStations({ trial, small = false }: { trial: Trial; small?: boolean }) {
  return (
    <ol aria-label="Steps" className={`grid grid-cols-4 ${small ? '' : 'max-sm:grid-cols-1 max-sm:gap-3'}`}>
      {trial.steps.map((step, i) => {
        const before = trial.steps[i - 1];
        const says = stepSays(trial, step.kind);
        return (
          <li
            key={step.kind}
            aria-label={`${stepNames[step.kind]}: ${states[step.state]}`}
            className={`relative min-w-0 ${small ? 'flex justify-center' : 'pr-4 max-sm:flex max-sm:gap-3'}`}
          >
            {i > 0 && (
              <span
                aria-hidden
                className={`absolute z-0 h-0.5 ${small ? 'top-[7px] right-1/2 w-full' : 'top-3 right-full w-[calc(100%-24px)] max-sm:hidden'} ${
                  step.state === 'done' && before?.state === 'done' ? 'bg-accent' : 'bg-line-strong'
                }`}
              />
            )}
            <Dot state={step.state} small={small} />
            {!small && (
              <span className="mt-2 block min-w-0 max-sm:mt-0">
                <span className={`block font-medium ${step.state === 'waiting' ? 'text-quiet' : ''}`}>
                  {stepNames[step.kind]}
                </span>
                <span className="caption block min-h-4 break-words">{says}</span>
              </span>
            )}
          </li>
        );
      })}
    </ol>
  );
}

function Dot({ state, small }: { state: Trial['steps'][number]['state']; small: boolean }) {
  const size = small ? 'size-4' : 'size-6';
  if (state === 'failed')
    return (
      <span className={`relative z-10 flex ${size} shrink-0 items-center justify-center bg-sheet`}>
        <SeverityMark severity="error" size={small ? 14 : 22} />
      </span>
    );
  return (
    <span
      aria-hidden
      className={`relative z-10 flex ${size} shrink-0 items-center justify-center rounded-full border-2 transition-colors ${
        state === 'done' ? 'border-accent bg-accent text-accent-ink' : 'border-line-strong bg-sheet'
      }`}
    >
      {state === 'done' && (
        <svg viewBox="0 0 16 16" width={small ? 9 : 14} height={small ? 9 : 14}>
          <path d="m2.5 8.5 3.8 3.8 7.2-8" fill="none" stroke="currentColor" strokeWidth="2.4" />
        </svg>
      )}
    </span>
  );
}
