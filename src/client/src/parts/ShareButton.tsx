import { Share2 } from 'lucide-react';

interface ShareButtonProps {
  title: string;
  url: string;
  className?: string;
}

/** Hands an address on by the system's own sheet, or where there is none by a mail. */
export function ShareButton({ title, url, className = 'button-plain' }: ShareButtonProps) {
  const says = (
    <>
      <Share2 size={14} strokeWidth={1.5} /> Share
    </>
  );
  return typeof navigator.share === 'function' ? (
    <button type="button" className={className} onClick={() => void navigator.share({ title, url }).catch(() => {})}>
      {says}
    </button>
  ) : (
    <a className={className} href={`mailto:?${mail(title, url)}`}>
      {says}
    </a>
  );
}

/** A mail's subject and text; blanks are written as %20, since mail programs show a plus (RFC 6068). */
const mail = (title: string, url: string): string =>
  `subject=${encodeURIComponent(title)}&body=${encodeURIComponent(url)}`;
