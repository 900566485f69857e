import { FormField } from '../FormField';
import { Select } from '../Select';

interface ColumnChoicesProps<P extends string> {
  /** The parts of a recipe with what they say. */
  parts: readonly (readonly [part: P, says: string])[];
  /** The columns of the file, by name. */
  columns: readonly string[];
  /** The column of a part; null for none. */
  columnOf: (part: P) => string | null | undefined;
  onChoose: (part: P, column: string | null) => void;
}

/** Says which column of a file holds what. */
export function ColumnChoices<P extends string>({ parts, columns, columnOf, onChoose }: ColumnChoicesProps<P>) {
  const options = [['', 'no column'] as const, ...columns.map((c) => [c, c] as const)];
  return parts.map(([part, says]) => (
    <FormField key={part} label={says}>
      <Select value={columnOf(part) ?? ''} onChange={(column) => onChoose(part, column || null)} options={options} />
    </FormField>
  ));
}

interface SignChoiceProps {
  /** “.” or “,”; null as each row says. */
  decimal: string | null | undefined;
  onChange: (decimal: string | null) => void;
}

/** Says which sign parts decimals. */
export const DecimalChoice = ({ decimal, onChange }: SignChoiceProps) => (
  <FormField label="Decimals are parted by">
    <Select
      value={decimal ?? ''}
      onChange={(sign) => onChange(sign || null)}
      options={[
        ['', 'as each row says'],
        ['.', 'a point'],
        [',', 'a comma'],
      ]}
    />
  </FormField>
);

interface DayChoiceProps {
  /** True where the day stands first; null as the file shows. */
  dayFirst: boolean | null | undefined;
  onChange: (dayFirst: boolean | null) => void;
}

/** Says whether day or month stands first. */
export const DayChoice = ({ dayFirst, onChange }: DayChoiceProps) => (
  <FormField label="In 3/4/2026 comes first">
    <Select
      value={dayFirst == null ? '' : String(dayFirst)}
      onChange={(first) => onChange(first === '' ? null : first === 'true')}
      options={[
        ['', 'as the file shows'],
        ['true', 'the day'],
        ['false', 'the month'],
      ]}
    />
  </FormField>
);
