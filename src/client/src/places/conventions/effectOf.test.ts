// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { effectOf } from './effectOf';

const answer = { links: 2, affected: 1, rules: [], visitsMoved: 0, moves: [] };

/** A stream of bytes cut at the given places, as a network may cut it. */
function streamOf(text: string, ...cuts: number[]): ReadableStream<Uint8Array> {
  const bytes = new TextEncoder().encode(text);
  const ends = [...cuts, bytes.length];
  return new ReadableStream({
    start(controller) {
      let from = 0;
      for (const end of ends) {
        controller.enqueue(bytes.slice(from, end));
        from = end;
      }
      controller.close();
    },
  });
}

const lines = `${JSON.stringify({ done: 0, total: 2, answer: null })}\n${JSON.stringify({ done: 2, total: 2, answer })}\n`;
const ok = { response: new Response(null, { status: 200 }) };

describe('a count read as it comes', () => {
  it('reports each line and gives the answer, wherever the network cuts', async () => {
    for (const cuts of [[], [1], [10, 11, 40], [lines.indexOf('\n'), lines.indexOf('\n') + 1]]) {
      const seen: number[] = [];
      expect(await effectOf({ ...ok, data: streamOf(lines, ...cuts) }, (p) => seen.push(p.done))).toEqual(answer);
      expect(seen).toEqual([0, 2]);
    }
  });

  it('says so when it broke off', async () => {
    const half = lines.slice(0, lines.indexOf('\n') + 1);
    await expect(effectOf({ ...ok, data: streamOf(half) }, () => undefined)).rejects.toThrow('was interrupted');
  });

  it('gives the refusal as it is worded', async () => {
    const refused = { response: new Response(null, { status: 409 }), error: { detail: 'There is no draft.' } };
    await expect(effectOf(refused, () => undefined)).rejects.toThrow('There is no draft.');
  });
});
