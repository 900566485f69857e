import { Refused, type Schema } from '../../api/client';
import { lastLineOf } from '../../api/lines';

type Progress = Schema['EffectProgress'];

/** Reads the lines of a count as they come; the last one has the answer. */
export async function effectOf(
  answer: Parameters<typeof lastLineOf>[0],
  onProgress: (progress: Progress) => void,
): Promise<Schema['EffectAnswer']> {
  const last = await lastLineOf<Progress>(answer, onProgress);
  if (!last.answer) throw new Refused('The count was interrupted; nothing was changed. Try again.', 500);
  return last.answer;
}
