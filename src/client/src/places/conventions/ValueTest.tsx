import { useState } from 'react';
import { NoticeList } from '../../parts/NoticeList';
import { useDebounced } from '../../parts/useDebounced';
import { useTried } from './useTried';
import type { ConventionDocument, Field } from './document';
import { FormField } from '../../parts/FormField';

interface ValueTestProps {
  document: ConventionDocument;
  field: Field | undefined;
  /** What is tried to begin with. */
  initial?: string;
}

/** Type anything, or paste a whole URL: every step under the rules as they stand in the draft. */
export function ValueTest({ document, field, initial = '' }: ValueTestProps) {
  const [text, setText] = useState(initial);
  const [referrer, setReferrer] = useState('');
  const whole = !field || /^[a-z]+:\/\//i.test(text.trim());
  const asked = useDebounced(
    JSON.stringify({ document, field: whole ? null : field.key, text, referrer: referrer || null }),
    200,
  );
  const tried = useTried(asked, text.trim() !== '' || referrer.trim() !== '');
  const answer = text.trim() || referrer.trim() ? tried.data : undefined;

  return (
    <aside
      aria-label="Test a value"
      className="flex w-[320px] shrink-0 flex-col gap-4 overflow-y-auto border-l border-line bg-sheet p-4"
    >
      <h2 className="font-semibold">Test a value</h2>
      <FormField label={field ? `A value for ${field.label}, or a whole URL` : 'A whole URL'}>
        <textarea
          className="input h-16 py-1 font-mono text-xs"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </FormField>
      {whole && (
        <FormField label="Referrer (optional)">
          <input className="input font-mono text-xs" value={referrer} onChange={(e) => setReferrer(e.target.value)} />
        </FormField>
      )}
      {tried.isError && <p className="text-error">{tried.error.message}</p>}
      {answer?.fields
        .filter((f) => f.value || f.steps.length)
        .map((f) => (
          <div key={f.key}>
            <p>
              <span className="text-quiet">{f.label}</span>{' '}
              <output className="font-mono text-xs font-medium">{f.value}</output>
            </p>
            <ol className="mt-1 flex flex-col gap-0.5 text-xs">
              {f.steps.map((step, i) => (
                <li key={i}>
                  {step.name}: <span className="font-mono">{step.before}</span> →{' '}
                  <span className="font-mono">{step.after}</span>
                </li>
              ))}
            </ol>
          </div>
        ))}
      {answer && whole && (
        <p>
          Channel <strong>{answer.channel}</strong>, because {answer.because}.
        </p>
      )}
      {answer && answer.notices.length > 0 && <NoticeList notices={answer.notices} />}
      {!answer && <p className="text-quiet">Shows every step the draft applies to a value or URL.</p>}
    </aside>
  );
}
