export * from "./chain";
export * from "./parts";
export * from "./project";
