import type { Schema } from '../../../api/client';

interface SheetDiagramProps {
  layout: Schema['SheetLayout'];
  skip: number;
  codes: number;
  /** The first code, shown on every label. */
  preview?: string;
}

/** The first sheet of paper, to scale: labels that are gone, labels that get a code. */
export function SheetDiagram({ layout, skip, codes, preview }: SheetDiagramProps) {
  const labels = Array.from({ length: layout.columns * layout.rows }, (_, i) => ({
    i,
    x: layout.left + (i % layout.columns) * (layout.width + (layout.gapAcross ?? 0)),
    y: layout.top + Math.floor(i / layout.columns) * (layout.height + (layout.gapDown ?? 0)),
  }));
  const side = Math.min(layout.width, layout.height) - 4;
  return (
    <svg
      viewBox={`0 0 ${layout.pageWidth} ${layout.pageHeight}`}
      className="max-h-[440px] w-72 border border-line-strong bg-white"
      role="img"
      aria-label={`${layout.columns} labels across and ${layout.rows} down`}
    >
      {labels.map(({ i, x, y }) => {
        const used = i >= skip && i < skip + codes;
        return (
          <g key={i}>
            <rect
              x={x}
              y={y}
              width={layout.width}
              height={layout.height}
              fill={i < skip ? '#e2ddd3' : 'none'}
              stroke="#b9b2a4"
              strokeWidth={0.4}
            />
            {used && preview && (
              <image
                href={`data:image/svg+xml,${encodeURIComponent(preview)}`}
                x={x + (layout.width - side) / 2}
                y={y + (layout.height - side) / 2}
                width={side}
                height={side}
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}
