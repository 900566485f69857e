import { Download } from 'lucide-react';

/** A link's code with its downloads. */
export function CodePreview({ linkId, says }: { linkId: string; says: string }) {
  const base = `/api/v1/links/${linkId}/code`;
  return (
    <figure className="flex shrink-0 flex-col items-start gap-1">
      <img src={`${base}.svg`} alt={`Code that says ${says}`} className="size-28 border border-line bg-white" />
      <figcaption className="flex gap-1">
        {(['svg', 'png'] as const).map((kind) => (
          <a
            key={kind}
            href={`${base}.${kind}`}
            download={`${says.split('/').pop()}.${kind}`}
            className="button-plain text-xs"
          >
            <Download size={12} strokeWidth={1.5} /> {kind.toUpperCase()}
          </a>
        ))}
      </figcaption>
    </figure>
  );
}
