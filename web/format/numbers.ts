/** Figures as they are shown: a real minus sign, fixed digits, − for nothing. */
export function fixed(value: number | null | undefined, digits: number): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return '–';
  const text = Math.abs(value).toFixed(digits);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

/** With its sign, also when positive. */
export function signed(value: number | null | undefined, digits: number): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return '–';
  const text = fixed(value, digits);
  return value > 0 && Number(text) !== 0 ? `+${text}` : text;
}

/** Seconds as m:ss, or h:mm h from an hour on. */
export function clock(seconds: number): string {
  const s = Math.max(0, Math.round(seconds));
  if (s >= 3600) return `${Math.floor(s / 3600)} h ${String(Math.floor((s % 3600) / 60)).padStart(2, '0')}`;
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
}

/** Steps in which a range of time is told, by its size, s. */
const coarse = (seconds: number) => (seconds < 60 ? 10 : seconds < 300 ? 30 : 60);

/** "2 to 7 min", "40 s to 2 min", "up to 30 s": a range so wide that it stands still while somebody reads it. */
export function between(low: number, high: number): string {
  const to = Math.ceil(high / coarse(high)) * coarse(high);
  const from = Math.min(to, Math.floor(low / coarse(low)) * coarse(low));
  const unit = (s: number) => (s < 60 ? 's' : 'min');
  const figure = (s: number) => (s < 60 ? String(s) : String(Math.round(s / 30) / 2));
  if (from <= 0 || from === to) return `${from === to ? 'about' : 'up to'} ${figure(to)} ${unit(to)}`;
  return `${figure(from)}${unit(from) === unit(to) ? '' : ` ${unit(from)}`} to ${figure(to)} ${unit(to)}`;
}

/** "about 35 s", "about 4 min": no more digits than the forecast deserves. */
export function about(seconds: number): string {
  if (seconds < 90) return `about ${Math.max(5, Math.round(seconds / 5) * 5)} s`;
  return `about ${Math.round(seconds / 60)} min`;
}
