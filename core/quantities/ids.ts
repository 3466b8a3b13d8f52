/**
 * The id of one kind of record. Text from outside may become one; the id of a loop is never taken for the id of a sensor. The mark
 * stands in the type alone.
 */
type Id<Kind extends string> = string & { readonly idOf?: Kind };

export type SiteId = Id<'site'>;
export type LoopId = Id<'loop'>;
export type SensorId = Id<'sensor'>;
export type ChannelId = Id<'channel'>;
export type LotId = Id<'lot'>;
export type RunId = Id<'run'>;
