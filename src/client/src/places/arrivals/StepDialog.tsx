import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { FormDialog } from '../../parts/FormDialog';
import { Select } from '../../parts/Select';
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
  steps: string[];
  onSave: (steps: string[]) => void;
  onClose: () => void;
}

/** The steps of a way, in order. */
export function StepDialog({ steps: first, onSave, onClose }: StepDialogProps) {
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
