export * from "./angular-set";
export * from "./bearing-nut";
