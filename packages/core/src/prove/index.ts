export * from "./circle";
