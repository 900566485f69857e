import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { useFields } from '../../api/known';
import { count } from '../../parts/format';
import { Inspector } from '../../parts/Inspector';
import { SeverityMark } from '../../parts/SeverityMark';
import { daysOf } from './days';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { FileInput } from '../../parts/FileInput';
import { placementsImport } from './queries';

type Answer = Schema['PlacementImportAnswer'];

const marks = { new: 'good', exists: 'info', refused: 'error' } as const;

interface PlacementImportProps {
  channels: string[];
  onClose: () => void;
  onDone: (says: string) => void;
}

/** Many placements from pasted names or a sheet: what they share is chosen once, and nothing is created before it was seen. */
export function PlacementImport({ channels, onClose, onDone }: PlacementImportProps) {
  const fields = useFields();
  const order = (fields.data ?? []).map((f) => f.key);
  const [text, setText] = useState('');
  const [file, setFile] = useState<File | null>(null);
  const [all, setAll] = useState({ channel: '', publisher: '', set: '' });
  const [preview, setPreview] = useState<Answer | null>(null);
  const change = (next: Partial<typeof all>) => {
    setAll({ ...all, ...next });
    setPreview(null);
  };
  const given = (dry: boolean) => ({
    list: file ?? text,
    dry,
    channel: all.channel || undefined,
    publisher: all.publisher || undefined,
    set: all.set || undefined,
  });
  const bring = useMutation({
    ...placementsImport(),
    onSuccess: (answer) => {
      if (!answer.made) return setPreview(answer);
      onDone(`${count(answer.new)} ${answer.new === 1 ? 'placement' : 'placements'} created.`);
    },
  });
  return (
    <Inspector title="Many placements" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          bring.mutate(given(true));
        }}
      >
        <FormField label="Names, one per line; or cells pasted from a sheet with its headings">
          <textarea
            className="input h-40 py-1.5 font-mono text-xs"
            aria-label="Names or cells"
            autoFocus
            disabled={file !== null}
            placeholder={'Lakeside walkers\nCity gardeners'}
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              setPreview(null);
            }}
          />
        </FormField>
        <span className="flex items-center gap-2">
          <FileInput
            label="Sheet of placements"
            accept=".csv,.tsv,.txt,.xlsx"
            says={file ? file.name : 'Upload a sheet'}
            onFile={(chosen) => {
              setFile(chosen);
              setPreview(null);
            }}
          />
          <span className="caption">Name, Channel, Publisher, Days, Form, Tags, or a field</span>
        </span>
        <FormField label="Channel of all that name none">
          <Select
            label="Channel of all"
            value={all.channel}
            onChange={(value) => change({ channel: value })}
            options={[['', 'choose a channel'], ...channels.map((channel) => [channel, channel] as const)]}
          />
        </FormField>
        <FormField label="Publisher of all that name none; becomes their source">
          <input className="input" value={all.publisher} onChange={(e) => change({ publisher: e.target.value })} />
        </FormField>
        <FormField label="Put them into the set; empty = none">
          <input className="input" value={all.set} onChange={(e) => change({ set: e.target.value })} />
        </FormField>
        {bring.isError && (
          <p role="alert" className="text-error">
            {bring.error.message}
          </p>
        )}
        <div className="flex gap-2">
          <button
            type="submit"
            className={preview ? 'button' : 'button-main'}
            disabled={bring.isPending || (!text.trim() && !file)}
          >
            Preview
          </button>
          {preview && (
            <button
              type="button"
              className="button-main"
              disabled={bring.isPending || preview.new === 0}
              onClick={() => bring.mutate(given(false))}
            >
              Create {count(preview.new)} {preview.new === 1 ? 'placement' : 'placements'}
            </button>
          )}
        </div>
      </form>
      {preview && (
        <ul aria-label="Preview" className="flex flex-col gap-2">
          {preview.rows.map((row) => (
            <li key={row.number} className="flex gap-2">
              <span className="mt-0.5">
                <SeverityMark severity={marks[row.state]} size={12} />
              </span>
              <span className="min-w-0">
                <span className="block truncate">{row.name || `Row ${row.number}`}</span>
                <span className="caption block">
                  {row.problem ??
                    (row.state === 'exists'
                      ? 'exists already and stays as it is'
                      : [
                          order
                            .filter((key) => row.defaults[key])
                            .map((key) => row.defaults[key])
                            .join(' · '),
                          row.useDays.length > 0 && daysOf(row.useDays),
                          row.useForm,
                        ]
                          .filter(Boolean)
                          .join(', '))}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
    </Inspector>
  );
}
