import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { api, dataOf, type ComposeRequest } from '../../api/client';
import { useShortDomains } from '../../api/known';
import { SeverityMark } from '../../parts/SeverityMark';
import { useDebounced } from '../../parts/useDebounced';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';

interface SlugChoiceProps {
  slug: string;
  onChange: (slug: string) => void;
  domain: string;
  onDomain: (host: string) => void;
  request: ComposeRequest;
}

/** The slug of the short link: typed or taken from free ideas, and looked at while it is typed. */
export function SlugChoice({ slug, onChange, domain, onDomain, request }: SlugChoiceProps) {
  const domains = useShortDomains();
  const typed = useDebounced(slug, 200);
  const asked = {
    slug: typed || undefined,
    domain: domain || undefined,
    page: request.destination ?? undefined,
    campaign: request.campaign ?? undefined,
    placement: request.placement ?? undefined,
  };
  const look = useQuery({
    queryKey: ['slug-look', asked],
    queryFn: async () => dataOf(await api.GET('/api/v1/slugs/look', { params: { query: asked } })),
    placeholderData: keepPreviousData,
  });
  const isCurrent = typed === slug && !look.isPlaceholderData;
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
      <input
        className="input font-mono text-xs"
        aria-label="Slug"
        placeholder="slug of the short link, generated if empty"
        value={slug}
        onChange={(e) => onChange(e.target.value)}
      />
      {isCurrent && slug && look.data?.problem && (
        <p role="alert" className="flex gap-2 text-xs">
          <SeverityMark severity="error" size={12} />
          {look.data.problem}
        </p>
      )}
      {isCurrent && slug && !look.data?.problem && (look.data?.alike.length ?? 0) > 0 && (
        <p role="status" className="flex gap-2 text-xs">
          <SeverityMark severity="warning" size={12} />
          Easily confused with {look.data!.alike.map((a) => `“${a}”`).join(', ')}, which opens another page.
        </p>
      )}
      {(look.data?.ideas.length ?? 0) > 0 && (
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
