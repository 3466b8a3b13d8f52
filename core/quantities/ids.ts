declare const brand: unique symbol;

/** A string that can only be used as the id of one kind of record. */
export type Id<Kind extends string> = string & { readonly [brand]: Kind };

export type SiteId = Id<'site'>;
export type LoopId = Id<'loop'>;
export type SensorId = Id<'sensor'>;
export type ChannelId = Id<'channel'>;
export type StandardId = Id<'standard'>;
export type LotId = Id<'lot'>;
export type RunId = Id<'run'>;
