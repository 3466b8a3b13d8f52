import type { LoopRow } from '@frustum/contract';

/** A sensor needs hands when it is due, outside, or was never calibrated. */
export function needsHands(row: LoopRow, nowMs: number): boolean {
  return row.due.atMs === null || row.due.atMs <= nowMs || row.margin.state === 'outside';
}

/** Nothing is asked of anybody: inside, not due, and not on the bench. */
export const isSound = (row: LoopRow, nowMs: number): boolean =>
  row.margin.state === 'inside' && !row.openRunId && !needsHands(row, nowMs);

const WORDS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine'];

/** What matters today, in a sentence. */
export function headline(rows: readonly LoopRow[], nowMs: number): string {
  const hands = rows.filter((r) => needsHands(r, nowMs));
  const edge = rows.filter((r) => r.margin.state === 'near the edge' && !hands.includes(r));
  const count = WORDS[hands.length] ?? String(hands.length);
  const first =
    hands.length === 0
      ? 'No sensor needs hands today.'
      : hands.length === 1
        ? `${hands[0]!.loopName} needs hands today.`
        : `${count} sensors need hands today.`;
  const open = rows.find((r) => r.openRunId);
  if (open) return `${first} ${open.loopName} is on the bench.`;
  const outside = hands.find((r) => r.margin.state === 'outside');
  if (outside) return `${first} ${hands.length === 1 ? 'It' : outside.loopName} is outside its tolerance.`;
  const fresh = hands.find((r) => r.due.atMs === null);
  if (fresh) return `${first} ${hands.length === 1 ? 'It' : fresh.loopName} was never calibrated.`;
  if (edge.length) return `${first} ${edge[0]!.loopName} is near the edge.`;
  return first;
}
