import { Check, Copy } from 'lucide-react';
import { useState } from 'react';

/** Copies a text in one stroke and says that it did. */
export function CopyButton({
  text,
  label,
  className = 'button-plain',
}: {
  text: string;
  label: string;
  className?: string;
}) {
  const [copied, setCopied] = useState(false);
  async function copy() {
    await copyText(text);
    setCopied(true);
    setTimeout(() => setCopied(false), 1_500);
  }
  return (
    <button type="button" className={className} onClick={copy} aria-live="polite">
      {copied ? <Check size={14} strokeWidth={1.5} /> : <Copy size={14} strokeWidth={1.5} />}
      {copied ? 'Copied' : label}
    </button>
  );
}

/** Puts a text on the clipboard, also where the page is not served securely. */
export async function copyText(text: string): Promise<void> {
  if (navigator.clipboard && window.isSecureContext) {
    await navigator.clipboard.writeText(text);
    return;
  }
  const area = document.createElement('textarea');
  area.value = text;
  area.style.position = 'fixed';
  area.style.opacity = '0';
  document.body.append(area);
  area.select();
  document.execCommand('copy');
  area.remove();
}
