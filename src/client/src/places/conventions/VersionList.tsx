import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ago, exact } from '../../parts/format';
import { Choose } from './Choose';
import { DifferenceList } from './DifferenceList';
import type { ConventionDocument } from './document';
import { conventionDifferenceQuery, versionsQuery, conventionOf } from './queries';

interface VersionListProps {
  mayWrite: boolean;
  onTake: (document: ConventionDocument, number: number) => void;
}

/** All versions there were: two can be compared, and an old one can become the draft again. */
export function VersionList({ mayWrite, onTake }: VersionListProps) {
  const versions = useQuery(versionsQuery());
  const names = (versions.data ?? []).map((v) => (v.isDraft ? 'draft' : String(v.number)));
  const [picked, setPicked] = useState<{ before?: string; after?: string }>({});
  const after = picked.after ?? names[0] ?? '';
  const before = picked.before ?? names[1] ?? names[0] ?? '';
  const difference = useQuery({
    ...conventionDifferenceQuery(before, after),
    enabled: before !== '' && before !== after,
  });
  const options = names.map((n) => [n, n === 'draft' ? 'the draft' : `version ${n}`] as const);

  async function take(number: number) {
    onTake(await conventionOf(number), number);
  }

  return (
    <div className="flex flex-col gap-6 p-5">
      <table className="w-full max-w-2xl">
        <tbody>
          {versions.data?.map((v) => (
            <tr key={v.number} className="h-[34px] [&>td]:border-t [&>td]:border-line [&>td]:pr-3">
              <td className="w-28 font-medium">{v.isDraft ? 'Draft' : `Version ${v.number}`}</td>
              <td className="text-quiet" title={v.publishedAt ? exact(v.publishedAt) : undefined}>
                {v.isDraft ? 'not published' : `published ${v.publishedAt ? ago(v.publishedAt) : ''}`}
                {v.savedBy && `, ${v.savedBy}`}
              </td>
              <td className="text-right">
                {mayWrite && !v.isDraft && (
                  <button type="button" className="button-plain" onClick={() => void take(v.number)}>
                    Use version {v.number} as draft
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {names.length > 1 && (
        <section className="max-w-2xl">
          <h3 className="mb-2 flex items-center gap-2 font-medium">
            What changed from
            <Choose
              label="Compare from"
              bare
              value={before}
              options={options}
              onChange={(next) => setPicked({ ...picked, before: next })}
            />
            to
            <Choose
              label="Compare to"
              bare
              value={after}
              options={options}
              onChange={(next) => setPicked({ ...picked, after: next })}
            />
          </h3>
          {before === after ? (
            <p>Choose two different versions.</p>
          ) : (
            difference.data && <DifferenceList changes={difference.data} />
          )}
        </section>
      )}
    </div>
  );
}
