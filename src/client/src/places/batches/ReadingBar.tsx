import { useMutation } from '@tanstack/react-query';
import { type Schema } from '../../api/client';
import { Select } from '../../parts/Select';
import { readingChange } from './queries';

const encodings: Record<Schema['ReadingAnswer']['encoding'], string> = {
  utf8: 'UTF-8',
  utf8Marked: 'UTF-8 with BOM',
  utf16Little: 'UTF-16 LE',
  utf16Big: 'UTF-16 BE',
  windows1252: 'Windows-1252',
};
const separators = [
  [',', 'commas'],
  [';', 'semicolons'],
  ['\t', 'tabs'],
  ['|', 'bars'],
] as const;

interface ReadingBarProps {
  batch: Schema['BatchAnswer'];
  onRead: (batch: Schema['BatchAnswer']) => void;
}

/** How the file was read, to be changed until its first run. */
export function ReadingBar({ batch, onRead }: ReadingBarProps) {
  const { reading } = batch;
  const now: Schema['SheetReading'] = {
    encoding: reading.isWorkbook ? null : reading.encoding,
    separator: reading.isWorkbook ? null : reading.separator,
    sheet: reading.sheet,
    headingRow: reading.headingRow,
  };
  const read = useMutation({ ...readingChange(batch.id), onSuccess: onRead });
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-3 border-b border-line px-5 py-1.5 text-xs">
      <span className="text-quiet">Read as</span>
      {reading.isWorkbook ? (
        <label className="flex items-center gap-1.5">
          sheet
          <Select
            className="h-7 text-xs"
            value={reading.sheet ?? ''}
            onChange={(value) => read.mutate({ ...now, sheet: value })}
            options={reading.sheets.map((name) => [name, name] as const)}
          />
        </label>
      ) : (
        <>
          <Select
            className="h-7 text-xs"
            label="Encoding"
            value={reading.encoding}
            onChange={(value) => read.mutate({ ...now, encoding: value as typeof reading.encoding })}
            options={Object.entries(encodings).map(([value, says]) => [value, says] as const)}
          />
          <label className="flex items-center gap-1.5">
            separator
            <Select
              className="h-7 text-xs"
              label="Separator"
              value={reading.separator}
              onChange={(value) => read.mutate({ ...now, separator: value })}
              options={separators}
            />
          </label>
        </>
      )}
      <label className="flex items-center gap-1.5">
        headings in row
        <input
          type="number"
          min="1"
          max="1000"
          className="input h-7 w-16 text-xs"
          defaultValue={reading.headingRow}
          onBlur={(e) => {
            const row = Number(e.target.value);
            if (row >= 1 && row !== reading.headingRow) read.mutate({ ...now, headingRow: row });
          }}
        />
      </label>
      {read.isError && (
        <span role="alert" className="text-error">
          {read.error.message}
        </span>
      )}
    </div>
  );
}
