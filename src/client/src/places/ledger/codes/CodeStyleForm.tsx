import { useMutation, useQuery } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { type Schema } from '../../../api/client';
import { usePerson } from '../../../parts/person';
import type { Look } from './look';
import { Select } from '../../../parts/Select';
import { FormField } from '../../../parts/FormField';
import { FileInput } from '../../../parts/FileInput';
import { logosQuery, logoKeep, logoRemove } from './queries';

interface LookFormProps {
  look: Look;
  onChange: (change: Partial<Look>) => void;
  /** Figures of the code as it looks now; without them nothing is said about capitals and contrast. */
  facts?: Schema['CodeFacts'];
  /** What a caption may fill in; without it a caption is one text. */
  fillIns?: string;
  /** The size is that of a label, so none is asked for. */
  withoutSize?: boolean;
}

const levels = [
  ['', 'Automatic: M, or H with a logo'],
  ['L', 'L, 7 % may be damaged'],
  ['M', 'M, 15 %'],
  ['Q', 'Q, 25 %'],
  ['H', 'H, 30 %'],
] as const;

/** How a code is to look: size, correction, colours, caption, logo. */
export function CodeStyleForm({ look, onChange, facts, fillIns, withoutSize }: LookFormProps) {
  const number = (text: string) => (text === '' ? null : Number(text));
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-3">
      {!withoutSize && (
        <FormField label="Printed size, mm">
          <input
            type="number"
            className="input w-full"
            min={5}
            max={2000}
            value={look.mm ?? ''}
            onChange={(e) => onChange({ mm: number(e.target.value) })}
          />
        </FormField>
      )}
      <FormField label="Resolution, dpi">
        <input
          type="number"
          className="input w-full"
          min={30}
          max={2400}
          value={look.dpi ?? ''}
          onChange={(e) => onChange({ dpi: number(e.target.value) })}
        />
      </FormField>
      <FormField label="Error correction" className="col-span-2">
        <Select
          className="w-full"
          value={look.correction ?? ''}
          onChange={(value) => onChange({ correction: value || null })}
          options={levels}
        />
      </FormField>
      <Colour says="Foreground" value={look.dark ?? '#000000'} onChange={(dark) => onChange({ dark })} />
      <Colour says="Background" value={look.light ?? '#ffffff'} onChange={(light) => onChange({ light })} />
      <FormField
        label={fillIns ? `Caption; ${fillIns} are filled in` : 'Caption under the code'}
        className="col-span-2"
      >
        <input
          className="input w-full"
          maxLength={200}
          value={look.caption ?? ''}
          onChange={(e) => onChange({ caption: e.target.value })}
        />
      </FormField>
      <LogoChoice look={look} onChange={onChange} />
      {(facts?.compactSaves || look.compact) && (
        <label className="col-span-2 flex items-center gap-2">
          <input
            type="checkbox"
            checked={look.compact ?? false}
            onChange={(e) => onChange({ compact: e.target.checked })}
          />
          Address in capitals{facts?.compactSaves && ': makes the code smaller'}
        </label>
      )}
    </div>
  );
}

function Colour({ says, value, onChange }: { says: string; value: string; onChange: (value: string) => void }) {
  return (
    <div className="flex min-w-0 flex-col gap-1">
      <span className="caption">{says}</span>
      <span className="flex gap-1.5">
        <input
          type="color"
          className="h-8 w-10 shrink-0 rounded border border-line-strong bg-sheet p-0.5"
          aria-label={`Pick for ${says.toLowerCase()}`}
          value={/^#[0-9a-f]{6}$/i.test(value) ? value : '#000000'}
          onChange={(e) => onChange(e.target.value)}
        />
        <input
          aria-label={says}
          className="input w-full min-w-0 font-mono text-xs"
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
      </span>
    </div>
  );
}

/** A logo of the workspace, or a new one from a file. */
function LogoChoice({ look, onChange }: { look: Look; onChange: (change: Partial<Look>) => void }) {
  const person = usePerson();
  const logos = useQuery(logosQuery());
  const keep = useMutation({ ...logoKeep(), onSuccess: (logo) => onChange({ logo: logo.id }) });
  const remove = useMutation({ ...logoRemove(), onSuccess: () => onChange({ logo: null }) });
  return (
    <div className="col-span-2 flex flex-col gap-1">
      <FormField label="Logo in the middle">
        <Select
          className="w-full"
          value={look.logo ?? ''}
          onChange={(value) => onChange({ logo: value || null })}
          options={[['', 'None'], ...(logos.data?.map((logo) => [logo.id, logo.name] as const) ?? [])]}
        />
      </FormField>
      {person.role !== 'viewer' && (
        <span className="flex items-center gap-2">
          <FileInput
            look="plain"
            label="Logo file"
            accept=".png,.jpg,.jpeg,.svg"
            says="Upload a PNG, JPEG or SVG"
            pending={keep.isPending}
            onFile={keep.mutate}
          />
          {look.logo && (
            <button
              type="button"
              className="button-plain"
              onClick={() => remove.mutate(look.logo!)}
              title="Existing codes keep it"
            >
              <Trash2 size={12} strokeWidth={1.5} /> Remove it
            </button>
          )}
        </span>
      )}
      {keep.isError && (
        <p role="alert" className="text-error">
          {keep.error.message}
        </p>
      )}
      {look.logo && (
        <label className="flex items-center gap-2">
          <span className="caption whitespace-nowrap">Logo size</span>
          <input
            type="range"
            min={5}
            max={50}
            className="min-w-0 flex-1"
            value={Math.round((look.logoShare ?? 0.2) * 100)}
            onChange={(e) => onChange({ logoShare: Number(e.target.value) / 100 })}
          />
          <span className="w-10 text-right tabular-nums">{Math.round((look.logoShare ?? 0.2) * 100)} %</span>
        </label>
      )}
    </div>
  );
}
