export * from "./findings";
export * from "./hand";
export * from "../sums/home";
export * from "./program";
export * from "./reversal";
export * from "./load-sample";
