import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { Schema } from '../../api/client';
import { count } from '../../parts/format';
import {
  batchQuery,
  editStep,
  rowsRepair,
  rowsType,
  runBegin,
  runCancel,
  runCount,
  sheetUpload,
  writeRecipe,
} from './queries';
import type { Recipe } from './recipe';

interface Told {
  /** What came of a change, or why it was refused; empty where there is nothing to say. */
  onSay: (message: string) => void;
  /** How far counting is; null once it ended. */
  onProgress: (progress: { done: number; total: number } | null) => void;
  /** The recipe is stored. */
  onRecipe: () => void;
  /** Rows say something else now, and are asked anew. */
  onEdited: () => Promise<void>;
  onCounted: (counted: Schema['CountAnswer']) => void;
  onBegun: () => void;
  /** A later file became a batch of its own. */
  onFollowed: (id: string) => void;
}

const rowsOf = (n: number) => `${count(n)} ${n === 1 ? 'row' : 'rows'}`;

/** Everything that changes a batch. */
export function useBatchChanges(id: string, told: Told) {
  const queries = useQueryClient();
  const { queryKey } = batchQuery(id);
  const say = (error: Error) => told.onSay(error.message);

  // Shown at once, so that the next change builds on it, and saved one after the other, each on what the one before it left.
  const changeRecipe = useMutation({
    mutationKey: ['recipe', id],
    scope: { id: `recipe ${id}` },
    onMutate: (recipe: Recipe) => queries.setQueryData(queryKey, (old) => old && { ...old, recipe }),
    mutationFn: (recipe: Recipe) => writeRecipe(id, recipe, queries.getQueryData(queryKey)!.revision),
    onSuccess: (next) => {
      const more = queries.isMutating({ mutationKey: ['recipe', id] }) > 1;
      queries.setQueryData(queryKey, (old) => (more && old ? { ...next, recipe: old.recipe } : next));
      told.onRecipe();
      told.onSay('');
    },
    onError: (error) => {
      say(error);
      void queries.invalidateQueries({ queryKey });
    },
  });

  function edited(says: string) {
    told.onSay(says);
    return told.onEdited();
  }
  const type = useMutation({
    ...rowsType(id),
    onSuccess: (done) => edited(`${rowsOf(done.rows)} changed.`),
    onError: say,
  });
  const repair = useMutation({
    ...rowsRepair(id),
    onSuccess: (done) => edited(`${rowsOf(done.rows)} repaired.`),
    onError: say,
  });
  const step = useMutation({
    ...editStep(id),
    onSuccess: (done) => edited(`${done.back ? 'Undone' : 'Redone'}: ${done.says}.`),
    onError: say,
  });
  const countRun = useMutation({
    ...runCount(id, told.onProgress),
    onSuccess: told.onCounted,
    onError: say,
    onSettled: () => told.onProgress(null),
  });
  const run = useMutation({
    ...runBegin(id),
    onSuccess: (next) => {
      queries.setQueryData(queryKey, next);
      told.onBegun();
      told.onSay('');
    },
    onError: say,
  });
  const cancel = useMutation({ ...runCancel(id), onError: say });
  const bring = useMutation({ ...sheetUpload(id), onSuccess: (made) => told.onFollowed(made.id), onError: say });
  return { say, changeRecipe, type, repair, step, countRun, run, cancel, bring };
}
