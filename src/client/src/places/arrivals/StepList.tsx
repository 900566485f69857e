import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ListOrdered } from 'lucide-react';
import { useState } from 'react';
import { live } from '../../api/live';
import { dayOf } from '../../parts/days';
import { count, rate } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { stepsQuery } from './queries';
import { isOpen } from './range';
import { StepDialog } from './StepDialog';
import { fewestSteps, isWhole, stepOf, stepSays } from './steps';
import type { View } from './view';

interface StepListProps {
  view: View;
  onSteps: (steps: string[]) => void;
}

/** How many visits reach each step of a way, and what the others did instead. */
export function StepList({ view, onSteps }: StepListProps) {
  const { today } = usePerson();
  const [changing, setChanging] = useState(false);
  const chosen = view.steps.filter((s) => isWhole(stepOf(s)));
  const isWay = chosen.length >= fewestSteps;
  const read = useQuery({
    ...stepsQuery(view.range, view.where, chosen),
    enabled: isWay,
    placeholderData: keepPreviousData,
    ...(isOpen(view.range, today) && live),
  });
  const dialog = changing && (
    <StepDialog range={view.range} steps={chosen} onSave={onSteps} onClose={() => setChanging(false)} />
  );
  if (!isWay)
    return (
      <div className="flex-1 bg-sheet p-8">
        <h2 className="mb-2 font-semibold">Which way do people take?</h2>
        <p className="mb-4 max-w-lg text-quiet">
          Name {fewestSteps} or more steps in order, such as the shop’s page, a basket begun, and an order. You see how
          many visits reach each of them, and what the others did instead. Save the view to keep the steps.
        </p>
        <button type="button" className="button-main" onClick={() => setChanging(true)}>
          Choose steps
        </button>
        {dialog}
      </div>
    );
  return (
    <div className="min-h-0 flex-1 overflow-auto bg-sheet">
      <p className="flex flex-wrap items-center gap-3 border-b border-line px-5 py-2 text-quiet">
        {read.data && (
          <span>
            Of {count(read.data.visits)} {read.data.visits === 1 ? 'visit' : 'visits'}; each step counts those that
            reached all before it, in this order.
          </span>
        )}
        {read.data?.rawFrom && (
          <span>Known from {dayOf(read.data.rawFrom)} on, the first day visits are kept one by one.</span>
        )}
        <button type="button" className="button h-7 px-2 text-xs" onClick={() => setChanging(true)}>
          <ListOrdered size={13} strokeWidth={1.5} /> Change steps
        </button>
      </p>
      {read.isError && <p className="p-5 text-error">{read.error.message}</p>}
      {read.data && !read.isError && (
        <table aria-label="Steps" className="w-full border-separate border-spacing-0 tabular-nums">
          <thead className="text-xs text-quiet">
            <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:text-right [&>th]:font-medium">
              <th scope="col" className="!pl-5 !text-left">
                Step
              </th>
              <th scope="col">Visits</th>
              <th scope="col">Of the step before</th>
              <th scope="col">Of all</th>
              <th scope="col" className="!pr-5 !text-left">
                Those who went no further
              </th>
            </tr>
          </thead>
          <tbody>
            {read.data.steps.map((step, i) => {
              const next = read.data.steps[i + 1];
              return (
                <tr
                  key={i}
                  className="align-top [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:py-2.5 [&>td]:text-right"
                >
                  <td className="w-[32%] !pl-5 !text-left">
                    <span className="block break-words">
                      {i + 1}. {stepSays(stepOf(step.step))}
                    </span>
                    <span aria-hidden className="mt-1.5 block h-1.5 rounded-full bg-line">
                      <span
                        className="block h-full rounded-full bg-accent"
                        style={{ width: `${(100 * step.visits) / Math.max(1, read.data.steps[0]!.visits)}%` }}
                      />
                    </span>
                  </td>
                  <td className="font-semibold">{count(step.visits)}</td>
                  <td>{rate(step.rateOfBefore)}</td>
                  <td>{rate(step.rateOfAll)}</td>
                  <td className="!pr-5 !text-left text-quiet">
                    {next && step.visits > next.visits && (
                      <ul>
                        {step.instead.map((instead) => (
                          <li key={instead.page} className="flex gap-2">
                            <span className="w-14 shrink-0 text-right">{count(instead.visits)}</span>
                            <span className="min-w-0 break-words">{instead.page ?? 'left'}</span>
                          </li>
                        ))}
                      </ul>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {dialog}
    </div>
  );
}
