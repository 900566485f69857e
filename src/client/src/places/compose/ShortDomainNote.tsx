import { Link } from 'react-router';
import { useShortDomains } from '../../api/known';
import { SeverityMark } from '../../parts/SeverityMark';

/** Says that short links won't work yet, while the domain they are made on isn't known to lead here. */
export function ShortDomainNote({ domain }: { domain: string }) {
  const domains = useShortDomains();
  const on = domains.data?.find((d) => (domain ? d.host === domain : d.first));
  if (!on || (on.checkedAt !== null && !on.problem)) return null;
  return (
    <p role="status" className="flex items-center gap-2 border-b border-line px-5 py-2">
      <SeverityMark severity="warning" />
      <span>
        {on.problem
          ? `${on.host} doesn’t lead here, so its short links don’t work yet.`
          : `Nobody has checked yet whether ${on.host} leads here; short links work only if it does.`}{' '}
        <Link to="/workspace?part=domains" className="button-plain">
          Short domains
        </Link>
      </span>
    </p>
  );
}
