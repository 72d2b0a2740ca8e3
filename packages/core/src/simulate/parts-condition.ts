/**
 * The physical state of the parts of one axis: gaps in mm, forces in N, wear and dirt from 0 to 1.
 * What is not named is sound. Nothing here knows a cause or a test; both follow from the parts.
 */
export interface PartsCondition {
  readonly overrideZero?: number;
  readonly interlockOpen?: number;
  readonly waiting?: number;
  /** Compensation in the control that the axis does not need, mm; positive hides loss. */
  readonly compensationMm?: number;
  readonly travelWrong?: number;
  readonly displayDead?: number;
  readonly regenClick?: number;
  readonly freshParts?: number;
  readonly spindleSensor?: number;
  readonly motorPitting?: number;
  readonly brakeDragN?: number;
  readonly stallMargin?: number;
  readonly couplingSlipMm?: number;
  /** Softness of a worn insert or a slack belt, mm at the reversing force. */
  readonly springMm?: number;
  readonly couplingOffN?: number;
  readonly retainerGapMm?: number;
  readonly lockNutGapMm?: number;
  readonly bearingPitting?: number;
  readonly bearingGapMm?: number;
  readonly bearingOverN?: number;
  readonly housingSlipMm?: number;
  readonly supportPitting?: number;
  readonly screwWearMm?: number;
  readonly bendN?: number;
  readonly misalignN?: number;
  readonly nutGapMm?: number;
  readonly nutDirt?: number;
  readonly nutReturns?: number;
  readonly bracketSlipMm?: number;
  /** Turning nut: its flange, and the clamps of the standing screw. */
  readonly flangeSlipMm?: number;
  readonly clampSlipMm?: number;
  readonly nutSqueezeN?: number;
  readonly rackSpotN?: number;
  /** How far one side of a gantry stands ahead of the other, mm. */
  readonly rackStepMm?: number;
  readonly meshWearMm?: number;
  readonly gibTightN?: number;
  readonly wayGapMm?: number;
  readonly dryness?: number;
  readonly carriageBroken?: number;
  readonly wheelTightN?: number;
  readonly wheelGapMm?: number;
  readonly cageShiftMm?: number;
  readonly counterOffN?: number;
  readonly dragBrakeN?: number;
  readonly chipsN?: number;
  readonly homeScatterMm?: number;
  readonly markerNear?: number;
  readonly tramMm?: number;
  /** How far shims have turned the spindle, mm per mm: across, and in depth. */
  readonly shimmedX?: number;
  readonly shimmedY?: number;
  readonly scaleDirt?: number;
  /** Clearance that the nut has from new, mm. */
  readonly nutNewMm?: number;
  /** Mesh that rack and pinion have from new, mm. */
  readonly meshNewMm?: number;
  /** Friction of the sound guideway, N. */
  readonly frictionN?: number;
  /** Where a spot, or the worn part of the screw, lies: a fraction of the travel. */
  readonly spotAt?: number;
}
