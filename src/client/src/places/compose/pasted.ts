/** What tells a pasted line from a text: an address, with a query or a fragment that may hold tags, in which blanks may have slipped. */
const address = /^(https?:\/\/|[\w-]+(\.[\w-]+)+(:\d+)?\/?)\S*[?#].*$/i;
/** A page, or a link whose blanks stand behind its first ? or #. */
const link = /^\S+$|^\S*[?#].*$/;

/**
 * The tagged links in a pasted text, or none when it is something else.
 * @param text Lines, or cells with tabs between them.
 * @param keys Keys of the convention; the first letters of one are enough, so that misspelt ones are found.
 */
export function linksIn(text: string, keys: string[]): string[] {
  const pieces = text
    .split(/[\r\n\t]+/)
    .map((piece) => piece.trim())
    .filter((piece) => piece !== '');
  const tagged = pieces.filter(
    (piece) => address.test(piece) && keys.some((key) => piece.toLowerCase().includes(key.toLowerCase().slice(0, 5))),
  );
  // A column of links may hold plain pages too; a text that merely mentions a link is no column.
  return tagged.length > 0 && pieces.every((piece) => link.test(piece)) ? [...new Set(pieces)] : [];
}
