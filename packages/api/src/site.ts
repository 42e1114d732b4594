export interface MeasurementView {
  /** Between two phases, in V. */
  readonly volts: number;
  readonly at: string;
  readonly person: string;
  readonly note: string;
}

/** A mains supply; what is measured there is another thing than what it is nominally. */
export interface SupplyView {
  readonly id: string;
  readonly name: string;
  readonly nominalVolts: number;
  readonly frequency: 50 | 60;
  /** At which a residual-current device before its units trips, in mA; 0 where there is none, nothing where nobody said. */
  readonly residualMilliamps: number | null;
  readonly version: number;
  /** The newest first. */
  readonly measurements: readonly MeasurementView[];
  readonly positions: number;
}

export interface CabinetView {
  readonly id: string;
  readonly name: string;
  /** The warmest that is met there, in °C; nothing where nobody has said. */
  readonly ambient: number | null;
  readonly version: number;
  readonly positions: number;
}

export interface SiteView {
  readonly supplies: readonly SupplyView[];
  readonly cabinets: readonly CabinetView[];
}

export interface PositionSiteView {
  readonly supply: SupplyView | null;
  readonly cabinet: Omit<CabinetView, 'positions'> | null;
}
