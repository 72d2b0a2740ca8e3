export * from "./home-marker";
