import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useEffect, useState } from 'react';
import { type Schema } from '../../../api/client';
import { count } from '../../../parts/format';
import { Head } from '../../../parts/Head';
import { PartTabs } from '../../../parts/PartTabs';
import { SeverityMark } from '../../../parts/SeverityMark';
import { useDebounced } from '../../../parts/useDebounced';
import { CodeStyleForm } from './CodeStyleForm';
import { SheetDiagram } from './SheetDiagram';
import { cleaned, lastLook, rememberLook, type Look } from './look';
import { Select } from '../../../parts/Select';
import { FormField } from '../../../parts/FormField';
import { codesCountQuery, codeSheetMake, codeFilesMake } from './queries';

interface CodesOfManyProps {
  /** Selected links, in their order. */
  links?: string[];
  /** A batch whose links are meant. */
  batch?: string;
  onLeave: () => void;
}

const fillIns = '@{title}, @{slug}, @{campaign}, @{placement}, @{short link} and @{number}';

/** Papers by how they are divided; sizes in millimetres. */
const papers: [string, Schema['SheetChoice']][] = [
  ['A4 in 3 × 8 labels', { columns: 3, rows: 8 }],
  ['A4 in 2 × 4 labels', { columns: 2, rows: 4 }],
  ['A4 in 4 × 10 labels', { columns: 4, rows: 10 }],
  ['A4, cut out at 40 × 50 mm', { width: 40, height: 50, gap: 4 }],
  ['A4, cut out at 70 × 90 mm', { width: 70, height: 90, gap: 4 }],
  ['A4, one poster', { columns: 1, rows: 1 }],
];

/** Codes of many links: on sheets of paper with captions and cut marks, or as single files. */
export function CodesOfMany({ links, batch, onLeave }: CodesOfManyProps) {
  const [part, setPart] = useState<'sheet' | 'files'>('sheet');
  const [look, setLook] = useState<Look>(() => ({ ...lastLook(), caption: '@{title}' }));
  const [paper, setPaper] = useState<number | 'own'>(0);
  const [own, setOwn] = useState<Schema['SheetChoice']>({
    columns: 3,
    rows: 7,
    width: 63.5,
    height: 38,
    left: 7,
    top: 15,
    gapAcross: 2.5,
    gapDown: 0,
  });
  const [skip, setSkip] = useState(0);
  const [cutMarks, setCutMarks] = useState(true);
  const [format, setFormat] = useState('svg');
  const [names, setNames] = useState('@{number} @{slug}');

  const sheet = paper === 'own' ? own : papers[paper]![1];
  const wanted = {
    links: batch ? null : (links ?? []),
    batch: batch ?? null,
    // On a label a code is as large as it can be.
    look: cleaned(part === 'sheet' ? { ...look, mm: 2000, dpi: 100 } : look),
  };
  const asked = useDebounced({ ...wanted, sheet: part === 'sheet' ? sheet : null, skip, cutMarks }, 250);
  useEffect(() => rememberLook(look), [look]);
  const counted = useQuery({ ...codesCountQuery(asked), placeholderData: keepPreviousData, retry: false });
  const make = useMutation({
    mutationFn: async () =>
      part === 'sheet'
        ? save(await codeSheetMake({ ...wanted, sheet, skip, cutMarks }), 'codes.pdf')
        : save(await codeFilesMake({ ...wanted, format, names }), 'codes.zip'),
  });
  const c = counted.data;
  const ready = c && c.codes > 0 && !c.problem && !counted.isError;
  return (
    <>
      <Head
        title="Codes"
        state={
          c &&
          `${count(c.codes)} ${c.codes === 1 ? 'code' : 'codes'}${c.without ? ` · ${count(c.without)} links have none` : ''}${c.pages && part === 'sheet' ? ` · ${count(c.pages)} ${c.pages === 1 ? 'sheet' : 'sheets'} of paper` : ''}`
        }
      >
        <PartTabs
          label="Output"
          parts={[
            ['sheet', 'Print sheet'],
            ['files', 'Single files'],
          ]}
          at={part}
          onGo={setPart}
        />
        <button type="button" className="button" onClick={onLeave}>
          Back
        </button>
        <button type="button" className="button-main" disabled={!ready || make.isPending} onClick={() => make.mutate()}>
          <Download size={14} strokeWidth={1.5} />
          {make.isPending ? 'Drawing …' : part === 'sheet' ? 'Print sheet as PDF' : 'Files as zip'}
        </button>
      </Head>
      <div className="flex min-h-0 flex-1 overflow-auto bg-sheet">
        <form
          className="flex w-[340px] shrink-0 flex-col gap-4 border-r border-line p-5"
          aria-label="Design"
          onSubmit={(e) => e.preventDefault()}
        >
          {part === 'sheet' ? (
            <>
              <FormField label="Paper">
                <Select
                  value={String(paper)}
                  onChange={(value) => setPaper(value === 'own' ? 'own' : Number(value))}
                  options={[...papers.map(([says], i) => [String(i), says] as const), ['own', 'Custom measurements']]}
                />
              </FormField>
              {paper === 'own' && <OwnPaper own={own} onChange={setOwn} />}
              <div className="grid grid-cols-2 items-end gap-3">
                <FormField label="Labels already used">
                  <input
                    type="number"
                    min={0}
                    className="input"
                    value={skip}
                    onChange={(e) => setSkip(Math.max(0, Number(e.target.value)))}
                  />
                </FormField>
                <label className="flex h-8 items-center gap-2">
                  <input type="checkbox" checked={cutMarks} onChange={(e) => setCutMarks(e.target.checked)} /> cut marks
                </label>
              </div>
            </>
          ) : (
            <div className="grid grid-cols-[90px_1fr] gap-3">
              <FormField label="Format">
                <Select
                  value={format}
                  onChange={setFormat}
                  options={['svg', 'png', 'jpg', 'pdf', 'eps'].map((f) => [f, f.toUpperCase()] as const)}
                />
              </FormField>
              <FormField label="File names">
                <input className="input font-mono text-xs" value={names} onChange={(e) => setNames(e.target.value)} />
              </FormField>
            </div>
          )}
          <CodeStyleForm
            look={look}
            onChange={(change) => setLook({ ...look, ...change })}
            facts={c?.first?.facts}
            fillIns={fillIns}
            withoutSize={part === 'sheet'}
          />
        </form>
        <div className="flex min-w-0 flex-1 flex-col gap-4 p-5">
          {(counted.isError || make.isError) && (
            <p role="alert" className="text-error">
              {(counted.error ?? make.error)!.message}
            </p>
          )}
          {c?.problem && (
            <p role="alert" className="flex gap-2 text-error">
              <SeverityMark severity="error" /> {c.problem}
            </p>
          )}
          {c && !c.problem && c.codes > 0 && (
            <p className="flex gap-2" role="status">
              <span className="mt-0.5">
                <SeverityMark severity={c.first?.verdict === 'doubtful' ? 'warning' : 'good'} />
              </span>
              <span>
                {c.first?.sentence} {count(c.read)} of {count(c.codes)} were read by an independent reader: one of each
                size and a sample of the rest.
                {part === 'sheet' && c.labelMillimetres && <> A code is {c.labelMillimetres} mm wide on its label.</>}
              </span>
            </p>
          )}
          {c && c.codes === 0 && (
            <p className="text-quiet">None of these links has a code. Create short links for them, then come back.</p>
          )}
          {part === 'sheet' && c?.layout && c.codes > 0 && (
            <SheetDiagram layout={c.layout} skip={skip} codes={c.codes} preview={c.first?.preview} />
          )}
          {part === 'files' && c?.first && (
            <img
              src={`data:image/svg+xml,${encodeURIComponent(c.first.preview)}`}
              alt={`Code that says ${c.first.facts.says}`}
              className="w-60 border border-line bg-white"
            />
          )}
        </div>
      </div>
    </>
  );
}

function OwnPaper({ own, onChange }: { own: Schema['SheetChoice']; onChange: (own: Schema['SheetChoice']) => void }) {
  const fields: [keyof Schema['SheetChoice'], string][] = [
    ['columns', 'Across'],
    ['rows', 'Down'],
    ['width', 'Width, mm'],
    ['height', 'Height, mm'],
    ['left', 'Left margin'],
    ['top', 'Top margin'],
    ['gapAcross', 'Horizontal gap'],
    ['gapDown', 'Vertical gap'],
  ];
  return (
    <div className="grid grid-cols-4 gap-2">
      {fields.map(([key, says]) => (
        <FormField key={key} label={says}>
          <input
            type="number"
            step="any"
            className="input w-full px-1"
            value={own[key] ?? ''}
            onChange={(e) => onChange({ ...own, [key]: e.target.value === '' ? null : Number(e.target.value) })}
          />
        </FormField>
      ))}
    </div>
  );
}

/** Hands a file that was made to whoever asked for it. */
function save(file: Blob, name: string) {
  const address = URL.createObjectURL(file);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}
