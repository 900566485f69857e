import { useQuery } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';

type Channel = NonNullable<Schema['ConventionDocument']['channels']>[number];

/** A channel that links can be tagged for: told by their tags or their printed code, not by where an untagged visit came from. */
export const isTagged = ({ conditions }: Pick<Channel, 'conditions'>) =>
  (conditions ?? []).some(
    ({ subject, test }) => test !== 'empty' && ['source', 'medium', 'campaign', 'printed'].includes(subject ?? ''),
  );

/** Names of the channels a placement can belong to, in the order of the convention. */
export function useTaggedChannels() {
  return useQuery({
    queryKey: ['channels'],
    queryFn: async () =>
      dataOf<Schema['ConventionAnswer']>(await api.GET('/api/v1/convention'))
        .document.channels!.filter(isTagged)
        .map((c) => c.name!),
  });
}
