import type { UseQueryOptions } from '@tanstack/react-query';
import { createContext, use } from 'react';
import type { ArrivalsAnswer } from '../../api/client';
import { arrivalsQuery, type Asked } from './queries';
import type { Range } from './range';

/** Asks for rows of a report. */
export type Report = (asked: {
  range: Range;
  /** Rows that are open, outermost first, each as its condition; they are among the conditions asked for. */
  open: string[];
  asked: Asked;
}) => UseQueryOptions<ArrivalsAnswer>;

/** How reports are asked for: by somebody with an account, unless a results page says otherwise. */
export const ReportContext = createContext<Report>(
  ({ range, asked }) => arrivalsQuery(range, asked) as UseQueryOptions<ArrivalsAnswer>,
);

/** How reports are asked for here. */
export const useReport = (): Report => use(ReportContext);
