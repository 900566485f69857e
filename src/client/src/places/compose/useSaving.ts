import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, type ComposeAnswer, type ComposeRequest, type SavedLink, type Schema } from '../../api/client';
import { copyText } from '../../parts/CopyButton';
import { lastLineOf } from '../../api/lines';

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
  const queries = useQueryClient();
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
    mutationFn: async ({ links, copy }: { links: ToSave[]; copy: boolean }) => {
      const requests = links.map((link) => link.request);
      const body = JSON.stringify(requests);
      // The same links sent again, as when an answer was lost on the way, are one saving.
      if (lastTry.current.body !== body) lastTry.current = { body, key: attemptKey() };
      const stream = await api.POST('/api/v1/links/many/with-progress', {
        body: { links: requests },
        headers: { 'Idempotency-Key': lastTry.current.key },
        parseAs: 'stream',
      });
      const last = await lastLineOf<Schema['SaveProgress']>(stream, setProgress);
      if (!last.answer) throw new Error(last.refused ?? 'Nothing was saved; try again.');
      const answer = last.answer;
      const made: [string, Kept][] = [];
      const lines: string[] = [];
      answer.links.forEach((outcome, i) => {
        if (!outcome.saved) return;
        made.push([links[i]!.key, { request: JSON.stringify(requests[i]), link: outcome.saved }]);
        lines.push(outcome.saved.copyUrl);
      });
      lastTry.current = { body: '', key: '' };
      setSaved((before) => new Map([...before, ...made]));
      if (copy && lines.length) await copyText(lines.join('\n'));
      say(
        `${answer.saved} ${answer.saved === 1 ? 'link' : 'links'} saved${copy && lines.length ? ' and copied' : ''}.`,
      );
      await Promise.all([
        queries.invalidateQueries({ queryKey: ['links'] }),
        queries.invalidateQueries({ queryKey: ['share-pages'] }),
      ]);
    },
    onError: (error) => say(error.message),
    onSettled: () => setProgress(null),
  });

  /** Takes links that exist already for those of the grid, and creates nothing. */
  const take = (links: Existing[], copy: boolean) => {
    const taken = links.map(({ key, request, answer }): [string, Kept] => {
      const { id, shortUrl } = answer.existing!;
      const link = { id, link: answer, shortUrl, codeShortUrl: null, codeUrl: null, waiting: false };
      return [key, { request: JSON.stringify(request), link: { ...link, copyUrl: shortUrl ?? answer.url! } }];
    });
    setSaved((before) => new Map([...before, ...taken]));
    if (copy) void copyText(taken.map(([, { link }]) => link.copyUrl).join('\n'));
    say(
      `${links.length} existing ${links.length === 1 ? 'link' : 'links'} used${copy ? ' and copied' : ''}; nothing was created.`,
    );
  };

  /** The saved link of a cell, as long as nothing of it was changed since. */
  const savedOf = (key: string, request: ComposeRequest): SavedLink | undefined => {
    const kept = saved.get(key);
    return kept && kept.request === JSON.stringify(request) ? kept.link : undefined;
  };
  return { save, take, savedOf, progress };
}

/** A key nobody guesses for one attempt at saving. */
function attemptKey(): string {
  return [...crypto.getRandomValues(new Uint32Array(4))].map((n) => n.toString(36)).join('-');
}
