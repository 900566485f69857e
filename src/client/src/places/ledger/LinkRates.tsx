import { useQuery, useQueryClient } from '@tanstack/react-query';
import { outdate } from '../../api/queryClient';
import { usePerson } from '../../parts/person';
import { RateList } from '../../parts/rates/RateList';
import { linkRatesQuery, saveLinkRates } from './queries';

/** What one link costs instead of what its placement does. */
export function LinkRates({ linkId }: { linkId: string }) {
  const person = usePerson();
  const queries = useQueryClient();
  const rates = useQuery(linkRatesQuery(linkId));
  if (rates.isError) return <p className="text-error">{rates.error.message}</p>;
  if (!rates.data) return null;
  return (
    <div className="flex max-w-2xl flex-col gap-6">
      <p className="text-quiet">
        From its first rate on, this link costs what stands here. Before that, and without any, it costs what its
        placement does.
      </p>
      <RateList
        rates={rates.data.rates}
        currency={person.currency}
        of="this link"
        mayWrite={person.role !== 'viewer'}
        save={async (change, dry) => {
          const answer = await saveLinkRates(linkId, change, dry);
          if (!dry) await Promise.all([outdate(queries, ['link-rates', linkId]), outdate(queries, ['links'])]);
          return answer;
        }}
      />
      {rates.data.ofPlacement.length > 0 && (
        <RateList
          title="Rates of its placement"
          rates={rates.data.ofPlacement}
          currency={person.currency}
          of="its placement"
          mayWrite={false}
          save={() => Promise.reject(new Error('Rates of a placement are changed in the plan.'))}
        />
      )}
    </div>
  );
}
