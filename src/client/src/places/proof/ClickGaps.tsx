import { useQuery } from '@tanstack/react-query';
import { format, parseISO } from 'date-fns';
import { useState, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Schema } from '../../api/client';
import { count, counted, rate } from '../../parts/format';
import { Head } from '../../parts/Head';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { SeverityMark } from '../../parts/SeverityMark';
import { TryLink } from '../../parts/TryLink';
import { GapBar, GapScale } from './GapScale';
import { clickGapsQuery } from './queries';

type Gap = Schema['ClickGapAnswer'];

const verdicts: Record<Gap['verdict'], string> = {
  tooFew: 'too few clicks to tell',
  quiet: 'small',
  ordinary: 'ordinary',
  finding: 'look into it',
};

const causes: Record<Gap['causes'][number]['kind'], string> = {
  tagsLost: 'Tags lost on the way',
  notMeasured: 'Page not measured',
  pageBroken: 'Page broken',
  programs: 'Programs',
  reused: 'Printed link used elsewhere',
  blocked: 'Not measured in the browser',
  new: 'Too new',
};

/** Clicks on each link beside the visits measured after them, the gap drawn, and its likely causes. */
export function ClickGaps({ tabs }: { tabs: ReactNode }) {
  const read = useQuery(clickGapsQuery());
  const [search] = useSearchParams();
  const [chosen, choose] = useState<string | undefined>(() => search.get('at') ?? undefined);
  const data = read.data;
  const gap = data?.links.find((l) => l.linkId === chosen);
  return (
    <>
      <Head
        title="Clicks and visits"
        state={
          data &&
          data.links.length > 0 &&
          `28 days: ${counted(data.findings, 'link')} to look into, ${count(data.ordinary)} ordinary, ${count(data.quiet)} small, ${count(data.tooFew)} too few`
        }
      >
        {tabs}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-auto bg-sheet">
          {read.isError && (
            <p role="alert" className="p-5 text-error">
              {read.error.message}
            </p>
          )}
          {read.isPending && <p className="p-5 text-quiet">Counting clicks and visits …</p>}
          {data?.rawFrom && (
            <p className="px-5 pt-4 text-quiet">
              Clicks and visits are kept one by one from {format(parseISO(data.rawFrom), 'd MMM yyyy')} on; earlier ones
              are not compared.
            </p>
          )}
          {data?.links.length === 0 && (
            <p className="max-w-xl p-5">
              Nobody has clicked a short link in the last 28 days. Each link that is clicked stands here, with the
              visits that were measured after its clicks.
            </p>
          )}
          {data && data.links.length > 0 && (
            <table className="w-full border-collapse">
              <thead className="sticky top-0 z-10 bg-sheet">
                <tr className="border-b border-line text-left text-xs text-quiet">
                  <th className="py-2 pr-4 pl-5 font-medium">Link</th>
                  <th className="w-20 py-2 pr-4 text-right font-medium" title="Gathered into visits by the half hour">
                    Clicked
                  </th>
                  <th className="w-20 py-2 pr-4 text-right font-medium">Measured</th>
                  <th className={`${gap ? 'w-[24%]' : 'w-[30%]'} py-2 pr-4 font-medium max-sm:hidden`}>
                    <GapScale />
                  </th>
                  <th className="w-20 py-2 pr-4 text-right font-medium">Missing</th>
                  {!gap && <th className="w-52 py-2 pr-5 font-medium max-lg:hidden">Most likely</th>}
                </tr>
              </thead>
              <tbody>
                {data.links.map((link) => (
                  <tr
                    key={link.linkId}
                    aria-selected={link.linkId === chosen}
                    className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash aria-selected:bg-accent-wash"
                    onClick={() => choose(link.linkId)}
                  >
                    <td className="max-w-0 pr-4 pl-5">
                      <button
                        type="button"
                        className="flex w-full items-center gap-2 text-left"
                        aria-label={`${link.title}: ${verdicts[link.verdict]}`}
                      >
                        <span className="w-3.5 shrink-0">
                          {link.verdict === 'finding' && <SeverityMark severity="warning" size={13} />}
                        </span>
                        <span className="truncate" title={link.title}>
                          {link.title}
                        </span>
                      </button>
                    </td>
                    <td className="pr-4 text-right tabular-nums">{count(link.expected)}</td>
                    <td className="pr-4 text-right tabular-nums">{count(link.measured)}</td>
                    <td className="pr-4 max-sm:hidden">
                      <GapBar
                        gap={link.gap}
                        isFinding={link.verdict === 'finding'}
                        isFaint={link.verdict === 'tooFew'}
                      />
                    </td>
                    <td className={`pr-4 text-right tabular-nums ${link.verdict === 'tooFew' ? 'text-quiet' : ''}`}>
                      {rate(link.gap)}
                    </td>
                    {!gap && (
                      <td className="truncate pr-5 text-quiet max-lg:hidden">
                        {link.verdict === 'finding' && link.causes[0]
                          ? causes[link.causes[0].kind]
                          : verdicts[link.verdict]}
                      </td>
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
        {gap && (
          <Inspector title={gap.title} onClose={() => choose(undefined)}>
            <TryLink linkId={gap.linkId} />
            <InspectorPart title="From clicks to visits">
              <p>
                {counted(gap.expected, 'visit')} expected from clicks, {count(gap.measured)} measured,{' '}
                {count(gap.expected - gap.measured)} missing ({rate(gap.gap)}): {verdicts[gap.verdict]}.
              </p>
              {gap.withoutClick > 0 && (
                <p className="caption mt-1">
                  {counted(gap.withoutClick, 'more visit')} with its tags came without the short link and{' '}
                  {gap.withoutClick === 1 ? 'stands' : 'stand'} apart.
                </p>
              )}
            </InspectorPart>
            {gap.causes.length > 0 && (
              <InspectorPart title="Likely causes">
                <ol aria-label="Likely causes" className="flex flex-col gap-3">
                  {gap.causes.map((cause) => (
                    <li key={cause.kind}>
                      <span className="flex justify-between gap-2 font-medium">
                        {causes[cause.kind]} <span className="tabular-nums">{count(cause.visits)}</span>
                      </span>
                      <span className="block break-words">{cause.says}</span>
                    </li>
                  ))}
                </ol>
              </InspectorPart>
            )}
            <Link className="text-accent underline" to={`/ledger?state=all&link=${gap.linkId}`}>
              The link in the Ledger
            </Link>
          </Inspector>
        )}
      </div>
    </>
  );
}
