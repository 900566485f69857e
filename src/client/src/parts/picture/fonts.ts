/** The letters of most of Europe; what is beyond them is drawn in the reader's own fonts. */
const latin = /U\+0+-0*FF/i;

/** The page's own fonts as a style sheet that needs no other file; empty where they cannot be read. */
export async function embeddedFonts(): Promise<string> {
  const faces = [...document.styleSheets]
    .flatMap((sheet) => [...sheet.cssRules])
    .filter((rule): rule is CSSFontFaceRule => rule instanceof CSSFontFaceRule)
    .filter((rule) => latin.test(rule.style.getPropertyValue('unicode-range')));
  const embedded = await Promise.all(
    faces.map(async ({ style, parentStyleSheet }) => {
      const file = /url\("?([^")]+)"?\)/.exec(style.getPropertyValue('src'))?.[1];
      if (!file) return '';
      const data = await dataUrl(await (await fetch(new URL(file, parentStyleSheet?.href ?? document.baseURI))).blob());
      return `@font-face{font-family:${style.getPropertyValue('font-family')};font-weight:${style.getPropertyValue('font-weight')};src:url(${data}) format("woff2")}`;
    }),
  );
  return embedded.join('');
}

/** A file as an address that holds it. */
export const dataUrl = (file: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('The picture could not be made. Try again.'));
    reader.readAsDataURL(file);
  });
