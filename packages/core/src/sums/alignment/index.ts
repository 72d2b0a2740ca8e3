export * from "./line-fit";
export * from "./shim-stack";
export * from "./crest-alignment";
export * from "./tram";
export * from "./crest-fit";
