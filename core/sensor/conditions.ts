/** What surrounds a sensor where it stands, as far as it matters to what it gives. */
export interface Conditions {
  readonly temperatureC: number;
  /** of the air above the liquid, kPa; absent = 101.325, or of no matter to the family */
  readonly pressureKPa?: number;
  /** practical salinity of the liquid; absent = fresh water, or of no matter to the family */
  readonly salinity?: number;
}
