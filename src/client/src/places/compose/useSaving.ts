import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { type ComposeAnswer, type ComposeRequest, type SavedLink } from '../../api/client';
import { copyText } from '../../parts/CopyButton';
import { saveLinks } from './queries';

const savedKey = 'beacon-compose-saved';

interface Kept {
  request: string;
  link: SavedLink;
}

function keptBefore(): Map<string, Kept> {
  try {
    return new Map(JSON.parse(sessionStorage.getItem(savedKey) ?? '[]') as [string, Kept][]);
  } catch {
    return new Map();
  }
}

/** One link to be saved. */
export interface ToSave {
  key: string;
  request: ComposeRequest;
}

/** One link that is in the Ledger already with exactly the same address. */
export interface Existing extends ToSave {
  answer: ComposeAnswer;
}

/** Saves links, all of them or none, and remembers which of the grid are saved, also over a reload. */
export function useSaving(say: (message: string) => void) {
  const [saved, setSaved] = useState(keptBefore);
  const [progress, setProgress] = useState<{ done: number; total: number } | null>(null);
  useEffect(() => {
    try {
      sessionStorage.setItem(savedKey, JSON.stringify([...saved].slice(-500)));
    } catch {
      // A full storage only means that a reload forgets which links were saved just now.
    }
  }, [saved]);
  const lastTry = useRef({ body: '', key: '' });

  const save = useMutation({
    mutationFn: async ({ links, used, copy }: { links: ToSave[]; used: Existing[]; copy: boolean }) => {
      const done = new Map(
        used.map(({ key, request, answer }): [string, Kept] => {
          const { id, shortUrl } = answer.existing!;
          const link = { id, link: answer, shortUrl, codeShortUrl: null, codeUrl: null, waiting: false };
          return [key, { request: JSON.stringify(request), link: { ...link, copyUrl: shortUrl ?? answer.url! } }];
        }),
      );
      const count = links.length > 0 ? await create(links, done) : 0;
      setSaved((before) => new Map([...before, ...done]));
      const lines = [...done.values()].map(({ link }) => link.copyUrl);
      if (copy && lines.length > 0) await copyText(lines.join('\n'));
      const says = [
        count > 0 && `${count} ${count === 1 ? 'link' : 'links'} saved`,
        used.length > 0 && `${used.length} existing ${used.length === 1 ? 'link' : 'links'} used`,
      ].filter(Boolean);
      say(`${says.join(', ') || 'Nothing saved'}${copy && lines.length > 0 ? ' and copied' : ''}.`);
    },
    meta: { outdates: [['links'], ['share-pages']] },
    onError: (error) => say(error.message),
    onSettled: () => setProgress(null),
  });

  /** Creates links and keeps them with those that are done; says how many. */
  async function create(links: ToSave[], done: Map<string, Kept>): Promise<number> {
    const requests = links.map((link) => link.request);
    const body = JSON.stringify(requests);
    // The same links sent again, as when an answer was lost on the way, are one saving.
    if (lastTry.current.body !== body) lastTry.current = { body, key: attemptKey() };
    const answer = await saveLinks(requests, lastTry.current.key, setProgress);
    answer.links.forEach((outcome, i) => {
      if (outcome.saved) done.set(links[i]!.key, { request: JSON.stringify(requests[i]), link: outcome.saved });
    });
    lastTry.current = { body: '', key: '' };
    return answer.saved;
  }

  /** The saved link of a cell, as long as nothing of it was changed since. */
  const savedOf = (key: string, request: ComposeRequest): SavedLink | undefined => {
    const kept = saved.get(key);
    return kept && kept.request === JSON.stringify(request) ? kept.link : undefined;
  };
  return { save, savedOf, progress };
}

/** A key nobody guesses for one attempt at saving. */
function attemptKey(): string {
  return [...crypto.getRandomValues(new Uint32Array(4))].map((n) => n.toString(36)).join('-');
}
