import { useQuery } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { writtenName, type NamedMeasure } from '../../parts/board/measures';
import { FormDialog } from '../../parts/FormDialog';
import { Select } from '../../parts/Select';
import { arrivalsQuery, pageFiguresQuery, spotsQuery } from './queries';
import type { Range } from './range';
import {
  fewestSteps,
  isWhole,
  mostSteps,
  stepExamples,
  stepKinds,
  stepOf,
  stepText,
  type Step,
  type StepKind,
} from './steps';

const kinds = Object.entries(stepKinds) as [StepKind, string][];

/** What a way begins with where none is chosen. */
const usual: Step[] = [
  { kind: 'page', text: '' },
  { kind: 'event', text: '' },
  { kind: 'conversion', text: '' },
];

interface StepDialogProps {
  range: Range;
  steps: string[];
  onSave: (steps: string[]) => void;
  onClose: () => void;
}

/** The steps of a way, in order. */
export function StepDialog({ range, steps: first, onSave, onClose }: StepDialogProps) {
  const occurring = useOccurring(range);
  const [steps, setSteps] = useState(first.length ? first.map(stepOf) : usual);
  const change = (at: number, changes: Partial<Step>) =>
    setSteps(steps.map((s, i) => (i === at ? { ...s, ...changes } : s)));
  const whole = steps.filter(isWhole);
  return (
    <FormDialog title="Steps, in order" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          onSave(whole.map(stepText));
          onClose();
        }}
      >
        <ol className="flex flex-col gap-2">
          {steps.map((step, i) => (
            <li key={i} className="flex items-center gap-2">
              <span className="w-5 shrink-0 text-right text-quiet tabular-nums">{i + 1}.</span>
              <Select
                label={`Step ${i + 1} is a`}
                className="w-36 shrink-0"
                value={step.kind}
                onChange={(kind) => change(i, { kind })}
                options={kinds}
              />
              <input
                aria-label={`Step ${i + 1}`}
                className="input min-w-0 flex-1"
                maxLength={500}
                placeholder={stepExamples[step.kind]}
                list={`occurring-${step.kind}`}
                value={step.text}
                onChange={(e) => change(i, { text: e.target.value })}
              />
              <button
                type="button"
                aria-label={`Remove step ${i + 1}`}
                disabled={steps.length <= fewestSteps}
                className="flex size-6 shrink-0 items-center justify-center rounded text-quiet hover:text-ink disabled:opacity-30"
                onClick={() => setSteps(steps.filter((_, at) => at !== i))}
              >
                <X size={14} strokeWidth={1.5} />
              </button>
            </li>
          ))}
        </ol>
        {steps.length < mostSteps && (
          <button
            type="button"
            className="button-plain inline-flex items-center gap-1 self-start"
            onClick={() => setSteps([...steps, { kind: 'page', text: '' }])}
          >
            <Plus size={13} strokeWidth={1.5} /> Add a step
          </button>
        )}
        {Object.entries(occurring).map(([kind, texts]) => (
          <datalist key={kind} id={`occurring-${kind}`}>
            {texts.map((text) => (
              <option key={text} value={text} />
            ))}
          </datalist>
        ))}
        <p className="text-xs text-quiet">
          Pages go by their path, on any of your hosts. Events, spots and kinds of conversions go by the names your
          pages give them.
        </p>
        <button type="submit" className="button-main self-start" disabled={whole.length < fewestSteps}>
          Show the way
        </button>
      </form>
    </FormDialog>
  );
}

/** What occurs in the range, offered while typing: what a step can be about, by its kind. */
function useOccurring(range: Range): Record<StepKind, string[]> {
  const pages = useQuery(pageFiguresQuery(range, [], '', 'seen', 1));
  const spots = useQuery(spotsQuery(range, [], '', 'clicked', 1));
  const report = useQuery(arrivalsQuery(range, { rows: '', measures: 'visits' }));
  const paths = [...new Set((pages.data?.pages ?? []).map((p) => p.page.slice(p.page.indexOf('/'))))];
  const named = (prefix: string) =>
    (report.data?.named ?? [])
      .filter((n) => n.measure.startsWith(prefix))
      .map((n) => writtenName(n.measure as NamedMeasure));
  return {
    page: paths,
    pageBegins: paths,
    pagePattern: [],
    event: named('events:'),
    clicked: (spots.data?.spots ?? []).map((s) => s.name),
    conversion: named('conversions:'),
  };
}
