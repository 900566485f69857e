import { dataOf, Refused, type Schema } from '../../api/client';

type Progress = Schema['EffectProgress'];

/** Reads the lines of a count as they come; the last one has the answer. */
export async function effectOf(
  answer: { response: Response; data?: ReadableStream<Uint8Array> | null; error?: unknown },
  onProgress: (progress: Progress) => void,
): Promise<Schema['EffectAnswer']> {
  const stream = dataOf(answer);
  if (!stream) throw new Refused('The count broke off; nothing was changed. Try again.', 500);
  const reader = stream.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
  let text = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    const lines = (text + value).split('\n');
    text = lines.pop() ?? '';
    for (const line of lines) {
      const progress = JSON.parse(line) as Progress;
      onProgress(progress);
      if (progress.answer) return progress.answer;
    }
  }
  throw new Refused('The count broke off; nothing was changed. Try again.', 500);
}
