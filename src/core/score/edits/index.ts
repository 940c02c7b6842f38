export * from "./chain";
export * from "./chords";
export * from "./key";
export * from "./kit";
export * from "./order";
export * from "./parts";
export * from "./project";
