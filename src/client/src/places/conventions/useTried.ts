import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { triedQuery } from './queries';

/** What the draft makes of a text; `asked` is the request as JSON, so that equal ones are asked once. */
export const useTried = (asked: string, enabled = true) =>
  useQuery({ ...triedQuery(asked), enabled, placeholderData: keepPreviousData });
