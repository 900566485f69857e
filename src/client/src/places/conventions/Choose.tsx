import { FormField } from '../../parts/FormField';
import { Select, type SelectOption } from '../../parts/Select';

interface ChooseProps<T extends string> {
  label: string;
  value: T;
  options: readonly SelectOption<T>[];
  disabled?: boolean;
  onChange: (value: T) => void;
  /** Leaves the label to screen readers, where a column's head says it already. */
  bare?: boolean;
}

/** A small set to choose from, with its label. */
export function Choose<T extends string>({ label, bare, ...choice }: ChooseProps<T>) {
  return bare ? (
    <Select label={label} {...choice} />
  ) : (
    <FormField label={label}>
      <Select {...choice} />
    </FormField>
  );
}
