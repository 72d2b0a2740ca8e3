export * from "./gib-knee";
