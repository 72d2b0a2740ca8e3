export * from "./floor-call";
