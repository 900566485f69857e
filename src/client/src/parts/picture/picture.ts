/** A drawing of what stands on the screen, in outlines and text. */
export interface Picture {
  svg: string;
  /** In CSS pixels. */
  width: number;
  height: number;
}

/** What may be drawn: whatever a chart marks so. */
export const drawn = 'data-picture';

const edge = 16;
const headHeight = 34;
const gap = 10;

/** Properties of drawn shapes that style sheets set, and that a drawing on its own must carry. */
const shapeProperties = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'opacity',
  'paint-order',
  'text-anchor',
];
const fontProperties = ['font-family', 'font-size', 'font-weight'];

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

const isSeen = (colour: string): boolean => colour !== 'transparent' && !/rgba?\([^)]*[,/]\s*0\)$/.test(colour);

/** True for what only those hear who do not see. */
function isHeardOnly(element: Element, style: CSSStyleDeclaration): boolean {
  const box = element.getBoundingClientRect();
  return style.overflow === 'hidden' && box.width <= 1 && box.height <= 1;
}

/** A copy of a drawing of the page that needs no style sheet. */
function copied(source: SVGElement): SVGElement {
  const copy = source.cloneNode(true) as SVGElement;
  const [from, to] = [
    [source, ...source.querySelectorAll('*')],
    [copy, ...copy.querySelectorAll('*')],
  ];
  from.forEach((element, i) => {
    const style = getComputedStyle(element);
    const properties = element.tagName === 'text' ? [...shapeProperties, ...fontProperties] : shapeProperties;
    const target = to[i]!;
    target.removeAttribute('class');
    for (const property of properties) {
      const value = style.getPropertyValue(property);
      if (value && value !== 'normal') target.setAttribute(property, value);
    }
  });
  return copy;
}

/** A text as it is seen: cut where its box ends. */
function cut(text: string, box: DOMRect, right: number): string {
  if (box.right <= right + 1 || box.width === 0) return text;
  const letters = Math.floor((text.length * Math.max(0, right - box.left)) / box.width) - 1;
  return letters < 1 ? '' : `${text.slice(0, letters).trimEnd()}…`;
}

/** Draws an element and what is in it, from its own left upper corner. */
function draw(root: Element, left: number, top: number): string {
  const clip = root.getBoundingClientRect();
  const parts: string[] = [];
  const at = (box: DOMRect) => ({ x: box.left - clip.left + left, y: box.top - clip.top + top });
  const isInside = (box: DOMRect) => box.bottom > clip.top && box.top < clip.bottom && box.width > 0;

  function visit(element: Element, right: number) {
    const style = getComputedStyle(element);
    if (style.display === 'none' || style.visibility === 'hidden' || isHeardOnly(element, style)) return;
    const box = element.getBoundingClientRect();
    if (element instanceof SVGSVGElement) {
      if (!isInside(box)) return;
      const copy = copied(element);
      const { x, y } = at(box);
      for (const [name, value] of Object.entries({ x, y, width: box.width, height: box.height }))
        copy.setAttribute(name, value.toFixed(1));
      copy.setAttribute('overflow', 'visible');
      parts.push(new XMLSerializer().serializeToString(copy));
      return;
    }
    if (isInside(box)) {
      const { x, y } = at(box);
      if (isSeen(style.backgroundColor))
        parts.push(
          `<rect x="${x.toFixed(1)}" y="${y.toFixed(1)}" width="${box.width.toFixed(1)}" height="${box.height.toFixed(1)}" fill="${style.backgroundColor}"/>`,
        );
      const border = parseFloat(style.borderBottomWidth);
      if (border > 0 && isSeen(style.borderBottomColor)) {
        const shape =
          parseFloat(style.borderTopWidth) > 0
            ? `<rect x="${(x + 0.5).toFixed(1)}" y="${(y + 0.5).toFixed(1)}" width="${(box.width - 1).toFixed(1)}" height="${(box.height - 1).toFixed(1)}" fill="none"`
            : `<path d="M${x.toFixed(1)} ${(y + box.height - 0.5).toFixed(1)}h${box.width.toFixed(1)}"`;
        parts.push(`${shape} stroke="${style.borderBottomColor}" stroke-width="${border}"/>`);
      }
    }
    const until = style.overflowX === 'hidden' ? Math.min(right, box.right) : right;
    for (const child of element.childNodes) {
      if (child instanceof Element) visit(child, until);
      else if (child.nodeType === Node.TEXT_NODE) write(child as Text, style, until);
    }
  }

  function write(node: Text, style: CSSStyleDeclaration, right: number) {
    const says = node.data.replace(/\s+/g, ' ').trim();
    if (says === '') return;
    const range = document.createRange();
    range.selectNodeContents(node);
    const box = range.getBoundingClientRect();
    const shown = isInside(box) ? cut(says, box, right) : '';
    if (shown === '') return;
    const { x, y } = at(box);
    const size = parseFloat(style.fontSize);
    const isRight = style.textAlign === 'right' && shown === says;
    const fonts = fontProperties.map((name) => `${name}="${escaped(style.getPropertyValue(name))}"`).join(' ');
    parts.push(
      `<text x="${(x + (isRight ? box.width : 0)).toFixed(1)}" y="${(y + box.height / 2 + size * 0.35).toFixed(1)}" ${isRight ? 'text-anchor="end" ' : ''}` +
        `fill="${style.color}" ${fonts}${style.fontVariantNumeric === 'tabular-nums' ? ' style="font-variant-numeric:tabular-nums"' : ''}>${escaped(shown)}</text>`,
    );
  }

  visit(root, clip.right);
  const id = `clip-${Math.round(top)}`;
  return (
    `<clipPath id="${id}"><rect x="${left}" y="${top}" width="${clip.width.toFixed(1)}" height="${clip.height.toFixed(1)}"/></clipPath>` +
    `<g clip-path="url(#${id})">${parts.join('')}</g>`
  );
}

/**
 * Draws what is seen of the page's charts, one beneath the other, under a headline.
 * @param title What stands above them.
 * @param fonts Style sheet with the fonts, so that the drawing looks the same elsewhere.
 */
export function pictureOf(title: string, charts: readonly Element[], fonts = ''): Picture {
  const body = getComputedStyle(document.body);
  const boxes = charts.map((chart) => chart.getBoundingClientRect());
  const width = Math.ceil(Math.max(320, ...boxes.map((b) => b.width)) + 2 * edge);
  let top = edge + headHeight;
  const parts = charts.map((chart, i) => {
    const part = draw(chart, edge, top);
    top += boxes[i]!.height + gap;
    return part;
  });
  const height = Math.ceil(top - gap + edge);
  return {
    width,
    height,
    svg:
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">` +
      (fonts && `<style>${fonts}</style>`) +
      `<rect width="${width}" height="${height}" fill="${body.backgroundColor}"/>` +
      `<text x="${edge}" y="${edge + 16}" fill="${body.color}" font-family="${escaped(body.fontFamily)}" font-size="15" font-weight="600">${escaped(title)}</text>` +
      `${parts.join('')}</svg>`,
  };
}
