import { dataOf, Refused } from './client';

type Streamed = { response: Response; data?: ReadableStream<Uint8Array> | null; error?: unknown };

/**
 * Reads an answer of JSON lines as they come.
 * @param onLine Told each line.
 * @returns The last line.
 */
export async function lastLineOf<T>(answer: Streamed, onLine: (line: T) => void): Promise<T> {
  const stream = dataOf(answer);
  if (!stream) throw new Refused('The connection was lost. Try again; nothing is done twice.', 500);
  const reader = stream.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
  let text = '';
  let last: T | undefined;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    const lines = (text + value).split('\n');
    text = lines.pop() ?? '';
    for (const line of lines) {
      last = JSON.parse(line) as T;
      onLine(last);
    }
  }
  if (last === undefined) throw new Refused('The connection was lost. Try again; nothing is done twice.', 500);
  return last;
}
