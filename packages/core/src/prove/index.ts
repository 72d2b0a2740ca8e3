export * from "./circle";
export * from "./compensation";
