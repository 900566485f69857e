import { dataUrl, embeddedFonts } from './fonts';
import { drawn, pictureOf, type Picture } from './picture';

/** Dots of a picture for each CSS pixel, so that it stays sharp on paper and in slides. */
const density = 2;

/** What is seen of the page's charts now. */
export const takePicture = async (title: string): Promise<Picture> =>
  pictureOf(title, [...document.querySelectorAll(`[${drawn}]`)], await embeddedFonts());

async function toPng({ svg, width, height }: Picture): Promise<Blob> {
  const image = new Image();
  image.src = await dataUrl(new Blob([svg], { type: 'image/svg+xml' }));
  await image.decode();
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width * density, height * density];
  const context = canvas.getContext('2d')!;
  context.scale(density, density);
  context.drawImage(image, 0, 0, width, height);
  return new Promise((resolve, reject) =>
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error('The picture could not be made. Try again.'))),
      'image/png',
    ),
  );
}

function save(file: Blob, name: string) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** A title as the name of a file. */
export const fileName = (title: string, kind: 'png' | 'svg'): string =>
  `${
    title
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '') || 'picture'
  }.${kind}`;

/** Copies the charts as a picture; saves it where the browser does not let pictures onto the clipboard. */
export async function copyPicture(title: string): Promise<'copied' | 'saved'> {
  const png = await toPng(await takePicture(title));
  if (window.isSecureContext && navigator.clipboard && 'ClipboardItem' in window) {
    try {
      await navigator.clipboard.write([new ClipboardItem({ 'image/png': png })]);
      return 'copied';
    } catch {
      // Not allowed here; the file is as good.
    }
  }
  save(png, fileName(title, 'png'));
  return 'saved';
}

/** Saves the charts as a drawing in outlines and text. */
export async function savePicture(title: string): Promise<void> {
  save(new Blob([(await takePicture(title)).svg], { type: 'image/svg+xml' }), fileName(title, 'svg'));
}
