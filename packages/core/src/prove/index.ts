export * from "./circle";
export * from "./compensation";
export * from "./square";
