interface ChooseProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  disabled?: boolean;
  onChange: (value: T) => void;
  /** Leaves the label to screen readers, where a column's head says it already. */
  bare?: boolean;
}

/** A small set to choose from, with its label. */
export function Choose<T extends string>({ label, value, options, disabled, onChange, bare }: ChooseProps<T>) {
  const select = (
    <select
      className="input"
      aria-label={bare ? label : undefined}
      value={value}
      disabled={disabled}
      onChange={(e) => onChange(e.target.value as T)}
    >
      {options.map(([option, says]) => (
        <option key={option} value={option}>
          {says}
        </option>
      ))}
    </select>
  );
  if (bare) return select;
  return (
    <label className="flex flex-col gap-1">
      <span className="caption">{label}</span>
      {select}
    </label>
  );
}
