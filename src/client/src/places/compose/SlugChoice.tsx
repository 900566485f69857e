import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type ComposeRequest } from '../../api/client';
import { useShortDomains } from '../../api/known';
import { FormField } from '../../parts/FormField';
import { Select } from '../../parts/Select';
import { SeverityMark } from '../../parts/SeverityMark';
import { useDebounced } from '../../parts/useDebounced';
import { slugCheckQuery } from './queries';

interface SlugChoiceProps {
  slug: string;
  onChange: (slug: string) => void;
  /** Slug of the link in the QR code. */
  codeSlug: string;
  onCodeSlug: (slug: string) => void;
  domain: string;
  onDomain: (host: string) => void;
  request: ComposeRequest;
}

/** Where the short links stand and what they are called: the one in texts, and the one in the QR code. */
export function SlugChoice({ slug, onChange, codeSlug, onCodeSlug, domain, onDomain, request }: SlugChoiceProps) {
  const domains = useShortDomains();
  return (
    <>
      {(domains.data?.length ?? 0) > 1 && (
        <FormField label="Short domain for all links here">
          <Select
            value={domain}
            onChange={onDomain}
            options={[
              ['', `the placement’s own, else ${domains.data!.find((d) => d.first)?.host}`],
              ...domains.data!.map((d) => [d.host, d.host] as const),
            ]}
          />
        </FormField>
      )}
      <SlugInput
        label="Slug"
        placeholder="slug of the short link, generated if empty"
        slug={slug}
        other={codeSlug}
        onChange={onChange}
        domain={domain}
        request={request}
        withIdeas
      />
      <SlugInput
        label="Slug in the QR code"
        placeholder="slug in the QR code, generated if empty"
        slug={codeSlug}
        other={slug}
        onChange={onCodeSlug}
        domain={domain}
        request={request}
      />
    </>
  );
}

interface SlugInputProps {
  label: string;
  placeholder: string;
  slug: string;
  /** The link's other slug, which can't be the same. */
  other: string;
  onChange: (slug: string) => void;
  domain: string;
  request: ComposeRequest;
  withIdeas?: boolean;
}

/** One slug, looked at while it is typed, with free ideas where they are wanted. */
function SlugInput({ label, placeholder, slug, other, onChange, domain, request, withIdeas }: SlugInputProps) {
  const typed = useDebounced(slug, 200);
  const asked = {
    slug: typed || undefined,
    domain: domain || undefined,
    page: request.destination ?? undefined,
    campaign: request.campaign ?? undefined,
    placement: request.placement ?? undefined,
  };
  const look = useQuery({
    ...slugCheckQuery(asked),
    placeholderData: keepPreviousData,
    enabled: withIdeas || typed !== '',
  });
  const isCurrent = slug !== '' && typed === slug && !look.isPlaceholderData;
  const isTwice = slug !== '' && slug.trim().toLowerCase() === other.trim().toLowerCase();
  const problem = isTwice
    ? 'The short link and the QR code each need a slug of their own.'
    : isCurrent
      ? look.data?.problem
      : null;
  const alike = isCurrent && !problem ? (look.data?.alike ?? []) : [];
  return (
    <>
      <input
        className="input font-mono text-xs"
        aria-label={label}
        placeholder={placeholder}
        value={slug}
        onChange={(e) => onChange(e.target.value)}
      />
      {problem && (
        <p role="alert" className="flex gap-2 text-xs">
          <SeverityMark severity="error" size={12} />
          {problem}
        </p>
      )}
      {alike.length > 0 && (
        <p role="status" className="flex gap-2 text-xs">
          <SeverityMark severity="warning" size={12} />
          Easily confused with {alike.map((a) => `“${a}”`).join(', ')}, which opens another page.
        </p>
      )}
      {withIdeas && (look.data?.ideas.length ?? 0) > 0 && (
        <p className="flex flex-wrap items-baseline gap-x-1">
          <span className="caption">Free:</span>
          {look.data!.ideas.map((idea) => (
            <button key={idea} type="button" className="button-plain font-mono text-xs" onClick={() => onChange(idea)}>
              {idea}
            </button>
          ))}
        </p>
      )}
    </>
  );
}
