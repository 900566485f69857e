import { keepPreviousData, useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import { live } from '../../api/live';
import type { BoardRow } from '../../parts/board/Board';
import { count } from '../../parts/format';
import { comparedCampaigns, sideBySide } from './compared';
import { conditionOf } from './conditions';
import { creditAsked } from './credit';
import { isOpen } from './range';
import { useReport } from './report';
import { rowName } from './rowName';
import { unknownValue } from './unknown';
import { measuresOf, type View } from './view';

/** Rows below an opened one, until all of them are asked for. */
const firstRows = 50;
const mostRows = 5_000;

/** The conditions of a row as one text, by which rows are told apart. */
const idOf = (conditions: readonly string[]): string => conditions.join('\n');

/** The conditions that narrow to a row, outermost first. */
export const conditionsOfRow = (id: string): string[] => (id === '' || id === everything ? [] : id.split('\n'));

/** The line of everything. */
export const everything = 'everything';

/** The tree of rows of a view, line by line, with what was opened of it. */
export function useRows(view: View, today: string) {
  const report = useReport();
  const [open, setOpen] = useState<string[]>([]);
  const [whole, setWhole] = useState<string[]>([]);
  // Rows are asked for where they are shown; everywhere else the total is enough.
  const shown = view.part === 'board' && comparedCampaigns(view.compare).length < 2;
  const levels = shown ? ['', ...open] : [''];
  const results = useQueries({
    queries: levels.map((path) => {
      const conditions = conditionsOfRow(path);
      return {
        ...report({
          range: view.range,
          open: conditions,
          asked: {
            rows: (shown && view.rows[conditions.length]) || '',
            where: [...view.where, ...conditions],
            measures: measuresOf(view),
            // Campaigns side by side have a table of their own.
            ...(view.compare && shown && !view.compare.startsWith(sideBySide) && { compare: view.compare }),
            ...(view.sort && { sort: view.sort }),
            ...creditAsked(view.credit),
            ...(path === ''
              ? { size: view.size, page: view.page, ...(view.search && { search: view.search }) }
              : { size: whole.includes(path) ? mostRows : firstRows }),
          },
        }),
        placeholderData: keepPreviousData,
        enabled: conditions.length < view.rows.length,
        ...(isOpen(view.range, today) && live),
      };
    }),
  });
  const answers = new Map(levels.map((path, i) => [path, results[i]!]));
  const root = answers.get('')!;

  function below(path: string): BoardRow[] {
    const result = answers.get(path);
    const conditions = conditionsOfRow(path);
    const level = conditions.length + 1;
    const field = view.rows[conditions.length]!;
    const only = (id: string, says: BoardRow['says']): BoardRow => ({
      id: `${path}\n${id}`,
      level,
      name: '',
      figures: null,
      says,
    });
    if (!result?.data) return path === '' ? [] : [only('status', result?.isError ? result.error.message : 'Loading …')];
    const { data } = result;
    const rows = data.rows.flatMap((row): BoardRow[] => {
      const key = row.keys[0] ?? null;
      const id = idOf([...conditions, conditionOf(field, key)]);
      const name = rowName(field, key, data.names[field]);
      const opened = open.includes(id);
      return [
        {
          id,
          level,
          name,
          note: name === key || key === null || !/^(first\.)?campaign$/.test(field) ? undefined : key,
          warning: key !== null && data.unknown[field]?.includes(key) ? unknownValue(field, key) : undefined,
          quiet: key === null,
          figures: row.figures,
          before: row.before,
          open: level < view.rows.length ? opened : undefined,
        },
        ...(opened ? below(id) : []),
      ];
    });
    if (data.rest)
      rows.push({
        id: `${path}\nrest`,
        level,
        name: `${count(data.restRows)} more`,
        quiet: true,
        figures: data.rest,
        action:
          path === '' ? undefined : (
            <button
              type="button"
              className="button-plain"
              onClick={(e) => {
                e.stopPropagation();
                setWhole([...whole, path]);
              }}
            >
              Show them
            </button>
          ),
      });
    return rows;
  }

  return {
    answer: root.data,
    error: root.isError ? root.error.message : null,
    rows: root.data
      ? [
          { id: everything, level: 0, name: 'Everything', figures: root.data.total, before: root.data.before },
          ...below(''),
        ]
      : [],
    toggle: (row: BoardRow, wish: boolean) =>
      setOpen((known) =>
        wish ? [...known, row.id] : known.filter((o) => o !== row.id && !o.startsWith(`${row.id}\n`)),
      ),
  };
}
