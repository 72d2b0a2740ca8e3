export * from "./gcode";
export * from "./moves";
