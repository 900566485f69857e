import type { ReactNode } from 'react';

interface FormFieldProps {
  label: ReactNode;
  /** A sentence beneath, for what the label can't hold. */
  hint?: ReactNode;
  className?: string;
  children: ReactNode;
}

/** A control under its label. */
export function FormField({ label, hint, className = '', children }: FormFieldProps) {
  return (
    <label className={`flex min-w-0 flex-col gap-1 ${className}`}>
      <span className="caption">{label}</span>
      {children}
      {hint && <span className="caption">{hint}</span>}
    </label>
  );
}
