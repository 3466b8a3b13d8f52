import { useWindowVirtualizer, type VirtualItem } from '@tanstack/react-virtual';
import { startTransition, useEffect, useRef, useState } from 'react';
import type { LoopRow } from '@frustum/contract';
import type { Line } from './choose.ts';
import { usePhone } from '../../app/use-phone.ts';
import { isSound, needsHands } from './headline.ts';
import { Row, SlimRow } from './row.tsx';

/** Heights before a line was measured, px: on a desk and on a phone. */
const LOOP_PX = 61;
const PHONE_PX = 190;
const SLIM_PX = 57;
const HEADING_PX = 45;
/** Lines kept above and below what is seen; a house of so few is all there. */
const BEYOND = 5;
const FEW = 40;
const MS_PER_MINUTE = 60_000;
/** The lines stand before their cones do, which come so many at a time from the top: a key pressed meanwhile goes first. */
const AT_A_TIME = 9;

/** How many cones of those in sight may be drawn by now; all of them once a few are. */
function useDrawn(): number {
  const [drawn, setDrawn] = useState(0);
  const waiting = drawn < FEW;
  useEffect(() => {
    if (!waiting) return;
    const next = setTimeout(() => startTransition(() => setDrawn((n) => n + AT_A_TIME)));
    return () => clearTimeout(next);
  }, [waiting, drawn]);
  return waiting ? drawn : Infinity;
}

/** As many lines as there are, of which those in sight are made: a thousand loops open as fast as twenty. */
export function LongList(props: { lines: readonly Line[]; nowMs: number; current: LoopRow | null }) {
  const { lines, nowMs, current } = props;
  // A picture of half a year need not follow the seconds.
  const toTheMinute = nowMs - (nowMs % MS_PER_MINUTE);
  const list = useRef<HTMLDivElement>(null);
  const phone = usePhone();
  const isSlim = (row: LoopRow) => phone && isSound(row, nowMs);
  const virtual = useWindowVirtualizer({
    count: lines.length,
    estimateSize: (i) => {
      const line = lines[i]!;
      if (line.kind === 'heading') return HEADING_PX;
      return isSlim(line.row) ? SLIM_PX : phone ? PHONE_PX : LOOP_PX;
    },
    getItemKey: (i) => keyOf(lines[i]!),
    overscan: lines.length > FEW ? BEYOND : FEW,
    scrollMargin: list.current?.offsetTop ?? 0,
  });
  const drawn = useDrawn();
  const at = lines.findIndex((l) => l.kind === 'loop' && l.row === current);
  useEffect(() => {
    if (at > 0) virtual.scrollToIndex(at, { align: 'auto' });
    // Only when a different row becomes current.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current?.loopId]);
  return (
    <div ref={list} role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map((item, place) => {
        const line = lines[item.index]!;
        return (
          <div
            key={item.key}
            role="presentation"
            data-index={item.index}
            ref={virtual.measureElement}
            className="absolute inset-x-0 top-0"
            style={{ transform: `translateY(${item.start - virtual.options.scrollMargin}px)` }}
          >
            {line.kind === 'heading' ? (
              <Heading item={item} line={line} />
            ) : isSlim(line.row) ? (
              <SlimRow row={line.row} nowMs={toTheMinute} rowIndex={item.index + 2} />
            ) : (
              <Row
                row={line.row}
                nowMs={toTheMinute}
                current={line.row === current}
                urgent={needsHands(line.row, nowMs)}
                rowIndex={item.index + 2}
                drawn={place < drawn}
              />
            )}
          </div>
        );
      })}
    </div>
  );
}

function Heading({
  item,
  line,
}: {
  item: VirtualItem;
  line: { readonly kind: 'heading'; readonly name: string; readonly loops: number; readonly hands: number };
}) {
  return (
    <div role="row" className="border-t border-base-300 pt-4 pb-1.5" aria-rowindex={item.index + 2}>
      <span role="cell" className="font-semibold">
        {line.name}{' '}
        <span className="sub font-normal text-[15px]">
          {line.loops} {line.loops === 1 ? 'loop' : 'loops'}
          {line.hands > 0 && `, ${line.hands} ${line.hands === 1 ? 'needs' : 'need'} hands`}
        </span>
      </span>
    </div>
  );
}

const keyOf = (line: Line) => (line.kind === 'heading' ? `heading ${line.name}` : line.row.loopId);
