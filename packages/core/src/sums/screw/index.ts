export * from "./steel";
export * from "./critical-speed";
export * from "./life";
export * from "./torque";
export * from "./stiffness";
