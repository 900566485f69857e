import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Refused, type Schema } from '../../api/client';
import { outdate } from '../../api/queryClient';
import type { ConventionDocument } from './document';
import { draftQuery, saveDraft } from './queries';

export type SaveState = { kind: 'saved' } | { kind: 'saving' } | { kind: 'refused'; why: string; overtaken: boolean };

interface Draft {
  published: Schema['ConventionAnswer'] | undefined;
  /** The stored draft; undefined while there is none. */
  stored: Schema['ConventionAnswer'] | undefined;
  document: ConventionDocument | undefined;
  change: (next: ConventionDocument) => void;
  state: SaveState;
  /** Lets go of what is typed and not stored. */
  forget: () => void;
  /** Lets go of it and asks anew what is stored. */
  reload: () => Promise<void>;
}

const saveAfter = 500;

/** The convention being written: every change goes into the draft by itself, once one stops typing. */
export function useDraft(): Draft {
  const queries = useQueryClient();
  const versions = useQuery(draftQuery());
  const [edited, setEdited] = useState<ConventionDocument>();
  const [state, setState] = useState<SaveState>({ kind: 'saved' });
  const revision = useRef<string | null>(null);
  // One save after the other: each is judged by the revision the one before it left.
  const saves = useRef(Promise.resolve());
  const latest = useRef<ConventionDocument>(undefined);
  const unsaved = useRef<ConventionDocument>(undefined);
  const loaded = versions.data?.stored ?? versions.data?.published;

  useEffect(() => {
    if (versions.data) revision.current = versions.data.stored?.revision ?? null;
  }, [versions.data]);

  const save = useCallback(
    (next: ConventionDocument) => {
      unsaved.current = undefined;
      saves.current = saves.current.then(async () => {
        try {
          const saved = await saveDraft(next, revision.current);
          revision.current = saved.revision;
          queries.setQueryData(draftQuery().queryKey, (old) => old && { ...old, stored: saved });
          setEdited((now) => (now === next ? undefined : now));
          if (latest.current === next) setState({ kind: 'saved' });
          // What was compared with the draft before is old now.
          void outdate(queries, ['convention', 'versions']);
          void outdate(queries, ['convention', 'difference']);
        } catch (error) {
          setState({
            kind: 'refused',
            why: (error as Error).message,
            overtaken: error instanceof Refused && error.rule === 'draft-overtaken',
          });
        }
      });
    },
    [queries],
  );

  useEffect(() => {
    if (!edited) return;
    const timer = setTimeout(() => save(edited), saveAfter);
    return () => clearTimeout(timer);
  }, [edited, save]);

  // Who leaves the page right after a change has made it all the same.
  useEffect(() => () => void (unsaved.current && save(unsaved.current)), [save]);

  function forget() {
    unsaved.current = undefined;
    setEdited(undefined);
    setState({ kind: 'saved' });
  }

  return {
    published: versions.data?.published,
    stored: versions.data?.stored,
    document: edited ?? (loaded?.document as ConventionDocument | undefined),
    change: (next) => {
      latest.current = next;
      unsaved.current = next;
      setState({ kind: 'saving' });
      setEdited(next);
    },
    state,
    forget,
    reload: async () => {
      forget();
      await queries.invalidateQueries({ queryKey: ['convention'] });
      await queries.invalidateQueries({ queryKey: ['fields'] });
    },
  };
}
