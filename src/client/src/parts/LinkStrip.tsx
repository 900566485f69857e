import { Tooltip } from 'radix-ui';
import type { ComposeAnswer, Notice, StripSegment } from '../api/client';
import { SeverityMark, gravest } from './SeverityMark';

type ComposedField = ComposeAnswer['fields'][number];

interface LinkStripProps {
  segments: StripSegment[];
  fields?: ComposedField[];
  notices?: Notice[];
  /** Labels of fields by key, where there are no composed fields to take them from. */
  labels?: Record<string, string>;
  onPick?: (key: string) => void;
}

const hues: Record<string, string> = {
  utm_source: 'border-source',
  utm_medium: 'border-medium',
  utm_campaign: 'border-campaign',
  utm_content: 'border-content',
  utm_term: 'border-term',
};

const origins: Record<ComposedField['from'], string> = {
  typed: 'typed here',
  placement: 'from the placement',
  campaign: 'from the campaign',
  composed: 'composed by the convention',
  fixed: 'fixed value',
  today: 'date of creation',
  address: 'from the page’s address',
  none: 'no value yet',
};

/**
 * A tagged link as one line cut into segments: the page's own address, then one segment for each field with its label
 * beneath. Scheme and keys are left out of what is shown, never out of what is copied.
 */
export function LinkStrip({ segments, fields, notices = [], labels = {}, onPick }: LinkStripProps) {
  const shown = segments.filter((segment) => segment.part !== 'scheme');
  const firstField = shown.findIndex((segment) => segment.part === 'field');
  const page = firstField < 0 ? shown : shown.slice(0, firstField);
  const rest = firstField < 0 ? [] : shown.slice(firstField);
  return (
    <span
      className="flex min-w-0 items-start overflow-hidden font-mono text-xs whitespace-pre"
      data-strip
      title={segments.map((segment) => segment.text).join('')}
    >
      {/* Read as one address; the pieces only let it give way where room is short. */}
      <span className="sr-only">{page.map((segment) => segment.text).join('')}</span>
      <span className="contents" aria-hidden>
        {page.flatMap((segment, i) =>
          piecesOf(segment).map(([text, look], j) => (
            <span
              key={`${i} ${j}`}
              className={`truncate ${look} ${segment.part === 'host' ? 'text-ink' : 'text-quiet'}`}
            >
              {text}
            </span>
          )),
        )}
      </span>
      {rest.map((segment, i) =>
        segment.part === 'field' && segment.key ? (
          <FieldSegment
            key={i}
            segment={segment}
            field={fields?.find((f) => f.key === segment.key)}
            label={fields?.find((f) => f.key === segment.key)?.label ?? labels[segment.key] ?? segment.key}
            notices={notices.filter((n) => n.field === segment.key)}
            onPick={onPick}
          />
        ) : (
          <span key={i} className="max-w-40 min-w-[2ch] shrink-100 truncate text-quiet">
            {segment.text}
          </span>
        ),
      )}
    </span>
  );
}

/** The longest path that is not cut in two. */
const shortPath = 16;
/** So much of a long path's end stays whole. */
const pathEnd = 10;

/**
 * The pieces of a segment before the tags, with how they give way when room is short: the host's domain first (down to its
 * first label), then the middle of the path, then what is left of both. Tags keep their first letters.
 */
function piecesOf({ part, text }: StripSegment): [string, string][] {
  if (part === 'host') {
    const dot = text.indexOf('.');
    return dot < 1
      ? [[text, 'min-w-[4ch] shrink-10']]
      : [
          [text.slice(0, dot), 'min-w-[4ch] shrink-10'],
          [text.slice(dot), 'min-w-0 shrink-100000'],
        ];
  }
  if (part === 'path' && text.length > shortPath)
    return [
      [text.slice(0, -pathEnd), 'min-w-[2ch] shrink-1000'],
      [text.slice(-pathEnd), 'min-w-[4ch] shrink-10'],
    ];
  return [[text, part === 'path' ? 'min-w-[4ch] shrink-10' : 'min-w-[2ch] shrink-1000']];
}

interface FieldSegmentProps {
  segment: StripSegment;
  field?: ComposedField;
  label: string;
  notices: Notice[];
  onPick?: (key: string) => void;
}

function FieldSegment({ segment, field, label, notices, onPick }: FieldSegmentProps) {
  const at = segment.text.indexOf('=');
  // The label beneath says which field it is, so the key itself is left to the tooltip and to copying.
  const lead = segment.text.slice(0, 1);
  const value = segment.text.slice(at + 1);
  const worst = gravest(notices);
  const body = (
    <span className={`flex min-w-0 flex-col items-start ${field ? '' : 'min-w-[6ch] shrink pr-px'}`}>
      <span className={`max-w-full truncate border-b-2 pb-px ${hues[segment.key!] ?? 'border-own'}`}>
        <span className="text-quiet">{lead}</span>
        {value}
        {worst && worst !== 'info' && (
          <span className="ml-0.5 inline-block align-[-2px]">
            <SeverityMark severity={worst} />
          </span>
        )}
      </span>
      <span className="max-w-full truncate pr-1.5 font-sans text-2xs leading-3 text-quiet">{label}</span>
    </span>
  );
  if (!field) return body;
  return (
    <Tooltip.Root delayDuration={200}>
      <Tooltip.Trigger asChild>
        <button
          type="button"
          tabIndex={-1}
          className="min-w-[6ch] shrink rounded-sm pr-px text-left hover:bg-accent-wash"
          onClick={() => onPick?.(field.key)}
        >
          {body}
        </button>
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content className="floating z-50 max-w-80 p-3 text-xs" sideOffset={4}>
          <div className="font-medium">
            {field.label}{' '}
            <span className="font-mono font-normal">
              {field.key}={field.value}
            </span>
          </div>
          <div className="text-quiet">{origins[field.from]}</div>
          {field.steps.map((step, i) => (
            <div key={i} className="mt-1">
              {step.name}: <span className="font-mono">{step.before}</span> →{' '}
              <span className="font-mono">{step.after}</span>
            </div>
          ))}
          {notices.map((notice, i) => (
            <div key={i} className="mt-1 flex gap-1.5">
              <SeverityMark severity={notice.severity} /> <span>{notice.message}</span>
            </div>
          ))}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** Where a field's value came from, in words. */
export function originOf(field: ComposedField): string {
  return origins[field.from];
}
