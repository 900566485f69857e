import { useQuery } from '@tanstack/react-query';
import { format, parseISO } from 'date-fns';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../../api/client';
import { arrivalsAddress } from '../../parts/arrivalsAddress';
import { count, counted, rate } from '../../parts/format';
import { Head } from '../../parts/Head';
import { SeverityMark } from '../../parts/SeverityMark';
import { variantTestsQuery } from './queries';

type Test = Schema['VariantTestAnswer'];

const units = { visits: 'Visits', visitors: 'Visitors', both: 'Visitors and visits' } as const;

/** Links that differ in content or term: which converts better, and whether that can be told yet. */
export function VariantTests({ tabs }: { tabs: ReactNode }) {
  const read = useQuery(variantTestsQuery());
  const clear = read.data?.tests.filter((t) => t.outcome === 'clear').length ?? 0;
  return (
    <>
      <Head
        title="Variant tests"
        state={
          read.data &&
          read.data.tests.length > 0 &&
          `${counted(read.data.tests.length, 'test')} in 90 days, ${clear === 0 ? 'none' : count(clear)} clear`
        }
      >
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        {read.isError && (
          <p role="alert" className="text-error">
            {read.error.message}
          </p>
        )}
        {read.isPending && <p className="text-quiet">Comparing variants …</p>}
        {read.data?.rawFrom && (
          <p className="mb-4 text-quiet">
            Single visits are kept from {format(parseISO(read.data.rawFrom), 'd MMM yyyy')} on; earlier ones are not
            compared.
          </p>
        )}
        {read.data?.tests.length === 0 && (
          <div className="max-w-xl">
            <p>
              Links of one campaign, placement and page that differ in content or term are a test. It shows here as soon
              as two of them have visits.
            </p>
            <p className="mt-2 text-quiet">Compose two links for one placement with different contents to begin one.</p>
          </div>
        )}
        <div className="flex max-w-5xl flex-col gap-8">
          {read.data?.tests.map((test) => (
            <TestTable key={`${test.campaignId} ${test.placementId} ${test.page}`} test={test} />
          ))}
        </div>
      </div>
    </>
  );
}

function TestTable({ test }: { test: Test }) {
  const name = [test.campaign, test.placement].filter(Boolean).join(' · ');
  // One scale for the whole test, with a little room at its end.
  const top = Math.max(...test.variants.map((v) => v.high ?? 0), 0.001) * 1.05;
  return (
    <section aria-label={`${name} · ${test.page}`}>
      <h2 className="font-semibold">
        {name} <span className="font-mono text-xs font-normal text-quiet">{test.page}</span>
      </h2>
      <p className="my-1 flex items-start gap-2">
        {test.outcome === 'clear' && (
          <span className="mt-0.5">
            <SeverityMark severity="good" />
          </span>
        )}
        <span>{test.says}</span>
      </p>
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b border-line text-left text-xs text-quiet">
            <th className="py-1 pr-4 font-medium">Variant</th>
            <th className="w-28 py-1 pr-4 text-right font-medium">{units[test.unit as keyof typeof units]}</th>
            <th className="w-24 py-1 pr-4 text-right font-medium">Converted</th>
            <th className="w-20 py-1 pr-4 text-right font-medium">Rate</th>
            <th className="w-[34%] py-1 font-medium max-sm:hidden">What the rate may truly be (95 %)</th>
          </tr>
        </thead>
        <tbody>
          {test.variants.map((variant, i) => (
            <tr key={variant.name} className="h-[34px] border-b border-line align-middle">
              <td className="max-w-0 pr-4">
                <Link
                  className={`block truncate font-mono text-xs hover:underline ${i === test.best ? 'font-semibold' : ''}`}
                  to={arrivalsAddress({
                    where: [['link', variant.links[0]!]],
                    rows: ['content', 'device'],
                    span: '90d',
                  })}
                  title={variant.name}
                >
                  {variant.name}
                </Link>
                {variant.alsoDiffersIn.length > 0 && (
                  <span className="caption flex items-center gap-1 pb-1">
                    <SeverityMark severity="warning" size={11} /> also differs in {variant.alsoDiffersIn.join(', ')}
                  </span>
                )}
              </td>
              <td className="pr-4 text-right tabular-nums">{count(variant.trials)}</td>
              <td className="pr-4 text-right tabular-nums">{count(variant.converted)}</td>
              <td className="pr-4 text-right tabular-nums">{rate(variant.rate)}</td>
              <td className="max-sm:hidden">
                <Interval variant={variant} top={top} best={i === test.best} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** The rate as a dot on the line of what it may truly be. */
function Interval({ variant, top, best }: { variant: Test['variants'][number]; top: number; best: boolean }) {
  if (variant.rate == null || variant.low == null || variant.high == null) return null;
  const at = (share: number) => `${(share / top) * 100}%`;
  return (
    <span
      role="img"
      aria-label={`${rate(variant.low)} to ${rate(variant.high)}`}
      title={`${rate(variant.low)} to ${rate(variant.high)}`}
      className="relative block h-4"
    >
      <span className="absolute inset-x-0 top-1/2 border-t border-line" />
      <span
        className={`absolute top-1/2 h-1 -translate-y-1/2 rounded-full ${best ? 'bg-accent' : 'bg-line-strong'}`}
        style={{ left: at(variant.low), width: at(variant.high - variant.low) }}
      />
      <span
        className={`absolute top-1/2 size-2.5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-sheet ${best ? 'bg-accent' : 'bg-ink'}`}
        style={{ left: at(variant.rate) }}
      />
    </span>
  );
}
