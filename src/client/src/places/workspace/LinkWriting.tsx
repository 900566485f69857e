import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { linkWritingQuery, linkWritingChange } from './queries';

type Writing = Schema['LinkWriting'];
type Shape = NonNullable<Writing['placeholders']>[number];

const shapes: [Shape, string, string][] = [
  ['braces', '{name}', 'ad platforms'],
  ['doubleBraces', '{{name}}', 'ad platforms'],
  ['brackets', '[name]', 'ad platforms'],
  ['percents', '%%name%%', 'ad platforms; standard readers can’t read it back'],
  ['dollars', '$name$', 'ad platforms'],
  ['underscores', '__NAME__', 'ad platforms'],
  [
    'mergeTags',
    '{{ name }}  *|NAME|*  <%= name %>  %name.name%  [[name]]  ${name}',
    'mail merge tags; in mails they are always kept',
  ],
];

/** How all links of the workspace are written, besides what its convention says. */
export function LinkWriting({ tabs }: { tabs: ReactNode }) {
  const writing = useQuery(linkWritingQuery());
  return (
    <>
      <Head title="Link writing">{tabs}</Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        {writing.data && <WritingForm writing={writing.data} />}
      </div>
    </>
  );
}

function WritingForm({ writing }: { writing: Writing }) {
  const owner = usePerson().role === 'owner';
  const [chosen, setChosen] = useState(writing);
  const save = useMutation(linkWritingChange());
  const live = new Set(chosen.placeholders);
  const change = (next: Partial<Writing>) => {
    save.reset();
    setChosen({ ...chosen, ...next });
  };
  return (
    <form
      className="flex max-w-3xl flex-col gap-6"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(chosen);
      }}
    >
      <fieldset className="flex flex-col gap-2" disabled={!owner}>
        <legend className="mb-1 font-medium">Placeholders that stay as they are</legend>
        <p className="text-quiet">
          An ad platform or a mail tool replaces a placeholder when it sends the link. Encoded, it would not recognise
          it.
        </p>
        {shapes.map(([shape, looks, says]) => (
          <label key={shape} className="flex items-baseline gap-2">
            <input
              type="checkbox"
              className="translate-y-0.5"
              checked={live.has(shape)}
              onChange={(e) =>
                change({
                  placeholders: shapes.map(([s]) => s).filter((s) => (s === shape ? e.target.checked : live.has(s))),
                })
              }
            />
            <span className="font-mono text-xs whitespace-pre-wrap">{looks}</span>
            <span className="caption">{says}</span>
          </label>
        ))}
      </fieldset>
      <fieldset className="flex flex-col gap-2" disabled={!owner}>
        <legend className="mb-1 font-medium">Tags that an address already has</legend>
        {(
          [
            ['replace', 'Replace them', 'the link has one value for each field'],
            ['keep', 'Keep them', 'only missing fields are added'],
            ['refuse', 'Refuse the link', 'the address must come without tags'],
          ] as const
        ).map(([existing, says, means]) => (
          <label key={existing} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="existing"
              className="translate-y-0.5"
              checked={chosen.existing === existing}
              onChange={() => change({ existing })}
            />
            <span>{says}</span>
            <span className="caption">{means}</span>
          </label>
        ))}
      </fieldset>
      <fieldset className="flex flex-col gap-2" disabled={!owner}>
        <legend className="mb-1 font-medium">Spaces in values</legend>
        {(
          [
            [false, '%20', 'every system reads it'],
            [true, '+', 'shorter; systems that don’t read forms show a plus sign'],
          ] as const
        ).map(([plus, looks, means]) => (
          <label key={looks} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="space"
              className="translate-y-0.5"
              checked={chosen.plusForSpace === plus}
              onChange={() => change({ plusForSpace: plus })}
            />
            <span className="font-mono text-xs">{looks}</span>
            <span className="caption">{means}</span>
          </label>
        ))}
      </fieldset>
      {owner ? (
        <div className="flex items-center gap-3">
          <button type="submit" className="button-main" disabled={save.isPending}>
            Save
          </button>
          {save.isSuccess && <span role="status">Saved. New links are written like this.</span>}
          {save.isError && (
            <span role="alert" className="text-error">
              {save.error.message}
            </span>
          )}
        </div>
      ) : (
        <p className="caption">Owners can change this.</p>
      )}
    </form>
  );
}
