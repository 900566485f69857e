import { useState } from 'react';
import type { ComposeAnswer, FieldAnswer } from '../../api/client';
import type { Cell } from './composition';

interface MissingBarProps {
  cells: Cell[];
  answers: Map<string, ComposeAnswer>;
  fields: FieldAnswer[];
  onFill: (lacking: Cell[], key: string, value: string) => void;
}

/** Fields that links still lack, asked for once and filled into all of them. */
export function MissingBar({ cells, answers, fields, onFill }: MissingBarProps) {
  const lacking = fields
    .map((field) => ({
      field,
      cells: cells.filter((cell) =>
        answers.get(cell.key)?.notices.some((n) => n.rule === 'missing-required' && n.field === field.key),
      ),
    }))
    .filter((l) => l.cells.length > 0 && l.field.kind !== 'composed');
  return (
    <>
      {lacking.map(({ field, cells: without }) => (
        <Asked
          key={field.key}
          field={field}
          count={without.length}
          all={without.length === cells.length}
          onFill={(value) => onFill(without, field.key, value)}
        />
      ))}
    </>
  );
}

interface AskedProps {
  field: FieldAnswer;
  count: number;
  all: boolean;
  onFill: (value: string) => void;
}

function Asked({ field, count, all, onFill }: AskedProps) {
  const [value, setValue] = useState('');
  const list = `missing-${field.key}`;
  return (
    <form
      className="flex items-center gap-3 border-b border-line bg-accent-wash px-5 py-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        if (value.trim() !== '') onFill(value);
      }}
    >
      <label className="flex items-center gap-2">
        <span>
          <strong className="font-medium">{field.label}</strong> is missing in{' '}
          {count === 1 ? 'one link' : all ? `all ${count} links` : `${count} links`}:
        </span>
        <input
          className="input w-56 font-mono text-xs"
          aria-label={`${field.label} for all links without it`}
          list={field.words.length ? list : undefined}
          placeholder={field.example ? `such as ${field.example}` : ''}
          value={value}
          onChange={(e) => setValue(e.target.value)}
        />
      </label>
      {field.words.length > 0 && (
        <datalist id={list}>
          {field.words.map((word) => (
            <option key={word.written} value={word.written}>
              {word.label}
            </option>
          ))}
        </datalist>
      )}
      <button type="submit" className="button" disabled={value.trim() === ''}>
        {count === 1 ? 'Fill in' : `Fill into all ${count}`}
      </button>
      <span className="caption min-w-0 truncate">{field.hint}</span>
    </form>
  );
}
