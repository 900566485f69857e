import type { Schema } from '../../../api/client';

/** How a code is asked for; what is left out is as usual. */
export type Look = Schema['CodeLook'];

const remembered = 'code-look';

/** A code as it is made when nobody asks for anything else. */
export const usual: Look = { mm: 30, dpi: 300, dark: '#000000', light: '#ffffff', logoShare: 0.2 };

/** The look somebody used last in this browser. */
export function lastLook(): Look {
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(remembered) ?? '{}') as Look) };
  } catch {
    return usual;
  }
}

/** Keeps a look for the next code; a caption and the long link belong to one code only. */
export function rememberLook(look: Look): void {
  localStorage.setItem(remembered, JSON.stringify({ ...look, caption: undefined, long: undefined }));
}

/** A look as the query of an address, without what is as usual or empty. */
export function queryOf(look: Look): string {
  const asked = Object.entries(look).filter(
    ([key, value]) =>
      value !== null && value !== undefined && value !== '' && value !== false && value !== usual[key as keyof Look],
  );
  return new URLSearchParams(asked.map(([key, value]) => [key, String(value)])).toString();
}

/** The look as it is sent: empty texts left out. */
export function cleaned(look: Look): Look {
  return Object.fromEntries(Object.entries(look).filter(([, value]) => value !== '' && value !== null)) as Look;
}
