export * from "./life";
export * from "./newsvendor";
export * from "./spare-stock";
export { SPARES, SPARE_PROVENANCE, type SpareKind } from "./spares.table";
