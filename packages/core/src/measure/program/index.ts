export { axisWords, wordError } from "./address";
export { commentText, dwellBlock, type DwellWord } from "./blocks";
export * from "./gcode";
export * from "./moves";
