const NAMES: Record<string, string> = { process: 'Water', rinse: 'Rinse', air: 'Air', storage: 'Storage' };
/** A place on the stand-in's bench, in the operator's words. */
export const nameOf = (place: string) => NAMES[place] ?? place.replace('cup-', 'Cup ');
