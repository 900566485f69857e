import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { attributesQuery, conventionQuery } from '../../api/queries';
import { ownDimensions, type OwnDimension } from './dimensions';

/** The workspace's own dimensions; none until they are known. */
export function useOwnDimensions(): OwnDimension[] {
  const attributes = useQuery(attributesQuery());
  const convention = useQuery(conventionQuery());
  return useMemo(
    () => ownDimensions(attributes.data ?? [], convention.data?.document.fields ?? []),
    [attributes.data, convention.data],
  );
}
