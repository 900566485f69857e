import { expect, it } from 'vitest';
import { gather } from '../../../../scripts/strings.mjs';

/**
 * Words we gave up for plainer ones. Each is looked for in every text somebody may read; a text that means something else by
 * one is to be written another way.
 */
const given = [
  /\btak(e|en|ing) (over|back|out|away)\b/i,
  /\bput (away|back|again)\b/i,
  /\bbrought\b|\bbring (a|an|the|it|links|back)\b/i,
  /\bbegin anew\b|\banew\b|\bas usual\b|\bleave it\b(?! (empty|out))/i,
  /\btrying bench\b|\bwhat (becomes|comes) of it\b|\bwhat there is to say\b/i,
  /\bit means\b|\bits value is\b|\bspeaks when\b|\botherwise in a channel\b/i,
  /\bits links say\b|\bwhat its links say\b|\bsay by themselves\b|\bstanding values?\b/i,
  /\bhand(ed)? (over|links over)\b|\ba word to them\b/i,
  /\bby itself: |\bmodules\b|\bin texts\b|\bin the code\b/i,
  /\blead (to another|them)\b|\bother pages; the first\b/i,
  /\bnever allowed\b|\bput first\b|\bfirst choice\b/i,
  /\bwhat it may do\b|\bmay do\b/i,
  /\bkeep the (text|recipe)\b|\bcount what it would do\b|\bwhat a run would do\b/i,
  /\bstands? where it belongs\b|\bnot done yet\b/i,
  /\boctets?\b|\bsigns\b|[”…] is no \w/i,
  /\blook at their version\b|\bin the meantime\b/i,
  /\bmend(s|ed)?\b/i,
  /^(Stop|Look|Note)$/,
];

/** Where one of them is right: the garden's own texts, and what is no text. */
const rightHere = [/^src\/StandIns\/Garden\//, /^src\/Web\/Demo\//];

it('says nothing in the words we gave up', () => {
  const found = gather()
    .filter(({ file }) => !rightHere.some((place) => place.test(file)))
    .filter(({ text }) => given.some((word) => word.test(text)))
    .map(({ file, line, text }) => `${file}:${line}: ${text}`);
  expect(found).toEqual([]);
});

it('gathers the texts of the interface and of the code', () => {
  const texts = gather();
  const has = (file: string, text: string) => texts.some((t) => t.file.endsWith(file) && t.text.includes(text));
  expect(has('compose/EmptyCompose.tsx', 'No links yet')).toBe(true);
  expect(has('Notices/NoticeRules.cs', 'The link has no tags at all.')).toBe(true);
  expect(has('Composing/TagWriter.cs', 'bytes; some programs')).toBe(true);
});
