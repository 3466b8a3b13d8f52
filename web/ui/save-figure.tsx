import { useRef, type ReactNode } from 'react';
import { encodeTable, type Cell } from '@frustum/formats';

/** What a picture shows, as a table. */
export interface FigureTable {
  readonly heading: readonly string[];
  readonly rows: readonly (readonly Cell[])[];
}

/** Dots of a PNG for one of the screen. */
const SCALE = 2;
/** What a picture of a chart takes its looks from. */
const LOOKS = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'fill-opacity',
  'font-family',
  'font-size',
] as const;

/** A picture with ways to take it away: the picture as SVG or PNG, and its figures as CSV. */
export function SaveFigure({ name, table, children }: { name: string; table: () => FigureTable; children: ReactNode }) {
  const figure = useRef<HTMLDivElement>(null);
  const file = name.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '');
  const svg = () => figure.current?.querySelector<SVGSVGElement>('svg.recharts-surface');
  const picture = () => {
    const shown = svg();
    return shown ? standalone(shown) : null;
  };
  return (
    <div>
      <div ref={figure}>{children}</div>
      <p className="sub text-sm flex gap-1 items-center -mt-1">
        Save:
        {(
          [
            ['SVG', () => saveSvg(`${file}.svg`, picture())],
            ['PNG', () => void savePng(`${file}.png`, picture())],
            [
              'CSV',
              () => {
                const { heading, rows } = table();
                save(`${file}.csv`, new Blob([encodeTable(heading, rows)], { type: 'text/csv;charset=utf-8' }));
              },
            ],
          ] as const
        ).map(([kind, act]) => (
          <button
            key={kind}
            type="button"
            className="btn btn-ghost btn-sm font-normal px-2"
            aria-label={`Save ${name} as ${kind}`}
            onClick={act}
          >
            {kind}
          </button>
        ))}
      </p>
    </div>
  );
}

interface Picture {
  readonly text: string;
  readonly width: number;
  readonly height: number;
}

/** An SVG that carries its own colours and fonts: outside of this page nobody knows its variables. */
function standalone(shown: SVGSVGElement): Picture {
  const copy = shown.cloneNode(true) as SVGSVGElement;
  const { width, height } = shown.getBoundingClientRect();
  const made = [copy, ...copy.querySelectorAll('*')];
  [shown, ...shown.querySelectorAll('*')].forEach((element, i) => {
    const looks = getComputedStyle(element);
    for (const look of LOOKS) {
      const value = looks.getPropertyValue(look);
      if (value) made[i]!.setAttribute(look, value);
    }
    made[i]!.removeAttribute('class');
  });
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  const paper = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  paper.setAttribute('width', '100%');
  paper.setAttribute('height', '100%');
  paper.setAttribute('fill', getComputedStyle(document.body).backgroundColor);
  copy.prepend(paper);
  return { text: new XMLSerializer().serializeToString(copy), width, height };
}

function saveSvg(file: string, picture: Picture | null): void {
  if (picture) save(file, new Blob([picture.text], { type: 'image/svg+xml' }));
}

async function savePng(file: string, picture: Picture | null): Promise<void> {
  if (!picture) return;
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(picture.text)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = SCALE * picture.width;
  canvas.height = SCALE * picture.height;
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  canvas.toBlob((blob) => blob && save(file, blob), 'image/png');
}

function save(file: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = file;
  link.click();
  // The browser has taken it by then.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
