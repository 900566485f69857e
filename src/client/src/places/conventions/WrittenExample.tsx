import { useDebounced } from '../../parts/useDebounced';
import type { ConventionDocument, Field } from './document';
import { useTried } from './useTried';

// Capitals, spaces, a letter with a mark, and a character that some platforms stumble over.
const sample = 'Föhn & Fern Weekend';

/** How a value of the field comes out under the rules as they stand, while one chooses them. */
export function WrittenExample({ document, field }: { document: ConventionDocument; field: Field }) {
  const text = field.kind === 'date' ? '3 Dec 2026' : sample;
  const asked = useDebounced(JSON.stringify({ document, field: field.key, text, referrer: null }), 200);
  const tried = useTried(asked, field.kind === 'text' || field.kind === 'date');
  const value = tried.data?.fields.find((f) => f.key === field.key)?.value;
  if (!value) return null;
  return (
    <p className="text-xs">
      <span className="text-quiet">“{text}” is written as</span>{' '}
      <output aria-label="Written example" className="font-mono font-medium">
        {value}
      </output>
    </p>
  );
}
