import {
  blob,
  foreignKey,
  index,
  integer,
  primaryKey,
  real,
  sqliteTable,
  text,
  unique,
} from "drizzle-orm/sqlite-core";
import type { Grid, Metre } from "@/core/time";
import type { Mix, SendEffects, Shaping } from "@/core/sound";
import type {
  BendPoint,
  ChainStep,
  ChordMark,
  Colour,
  Generated,
  KitShape,
  Lane,
  Note,
  Recording,
  SongEntry,
  Starred,
} from "@/core/score";
import type { Preset } from "@/core/stored";
import type { Summary } from "./summary";

/** A project's head. `revision` goes up by one with every saved change. */
export const projects = sqliteTable(
  "projects",
  {
    id: text().primaryKey(),
    name: text().notNull(),
    tempo: real().notNull(),
    metreBeats: integer("metre_beats").notNull(),
    metreUnit: integer("metre_unit").notNull(),
    keyRoot: integer("key_root").notNull(),
    keyScale: text("key_scale").notNull(),
    song: text({ mode: "json" }).$type<readonly SongEntry[]>().notNull(),
    /** What hits with a chance are drawn from; null for 0. */
    seed: integer(),
    revision: integer().notNull().default(1),
    createdAt: integer("created_at").notNull(),
    updatedAt: integer("updated_at").notNull(),
    /** Set while the project lies deleted and can still be brought back. */
    deletedAt: integer("deleted_at"),
    /** Names this very save, which its number alone does not once an older file was put back. */
    stamp: text().notNull().default(""),
    /** What the library shows, so that it never reads projects; of which revision it is. */
    summary: text({ mode: "json" }).$type<Summary>(),
    summaryRevision: integer("summary_revision"),
    /** Reverb, echo and level of the whole; null while they are plain. */
    room: text({ mode: "json" }).$type<SendEffects>(),
  },
  (t) => [index("projects_updated").on(t.updatedAt)],
);

/** The last saves of each project: what a page was made on is one of them, or comes from another file. */
export const saves = sqliteTable(
  "saves",
  {
    projectId: text("project_id")
      .notNull()
      .references(() => projects.id, { onDelete: "cascade" }),
    revision: integer().notNull(),
    stamp: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.revision] })],
);

export const tracks = sqliteTable(
  "tracks",
  {
    projectId: text("project_id")
      .notNull()
      .references(() => projects.id, { onDelete: "cascade" }),
    id: text().notNull(),
    position: integer().notNull(),
    kind: text({ enum: ["drums", "melody"] }).notNull(),
    name: text().notNull(),
    sound: text().notNull(),
    level: real().notNull(),
    pan: real().notNull(),
    mute: integer({ mode: "boolean" }).notNull(),
    solo: integer({ mode: "boolean" }).notNull(),
    lanes: text({ mode: "json" }).$type<readonly Lane[]>().notNull(),
    /** How the kit is shaped; null while it is plain. */
    kit: text({ mode: "json" }).$type<KitShape>(),
    /** How the sound is shaped, and what the track goes through; null while they are plain. */
    shaping: text({ mode: "json" }).$type<Shaping>(),
    mix: text({ mode: "json" }).$type<Mix>(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

export const patterns = sqliteTable(
  "patterns",
  {
    projectId: text("project_id")
      .notNull()
      .references(() => projects.id, { onDelete: "cascade" }),
    id: text().notNull(),
    position: integer().notNull(),
    name: text().notNull(),
    bars: integer().notNull(),
    /** Colour and metre of its own; null where it has none. */
    colour: text().$type<Colour>(),
    metre: text({ mode: "json" }).$type<Metre>(),
    /** The chord line; null while there is none. */
    chords: text({ mode: "json" }).$type<readonly ChordMark[]>(),
    /** The recording it was made from; null while there is none. */
    recording: text({ mode: "json" }).$type<Recording>(),
    /** Ideas that were starred; null while there are none. */
    stars: text({ mode: "json" }).$type<readonly Starred[]>(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** What one track plays in one pattern; its notes are saved as one value, apart from all others. */
export const parts = sqliteTable(
  "parts",
  {
    projectId: text("project_id").notNull(),
    patternId: text("pattern_id").notNull(),
    trackId: text("track_id").notNull(),
    length: integer().notNull(),
    grid: text({ mode: "json" }).$type<Grid>().notNull(),
    notes: text({ mode: "json" }).$type<readonly Note[]>().notNull(),
    chain: text({ mode: "json" }).$type<readonly ChainStep[]>().notNull(),
    /** What the notes were generated with; null where they were not. */
    generated: text({ mode: "json" }).$type<Generated>(),
    /** The bend curve; null where there is none. */
    bend: text({ mode: "json" }).$type<readonly BendPoint[]>(),
  },
  (t) => [
    primaryKey({ columns: [t.projectId, t.patternId, t.trackId] }),
    foreignKey({
      columns: [t.projectId, t.patternId],
      foreignColumns: [patterns.projectId, patterns.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.projectId, t.trackId],
      foreignColumns: [tracks.projectId, tracks.id],
    }).onDelete("cascade"),
  ],
);

/** Facts about this database, such as that the demo projects have been put in. */
export const facts = sqliteTable("facts", {
  name: text().primaryKey(),
  value: text().notNull(),
});

/** Sounds of the user's own, each once, under the hash of its bytes. */
export const samples = sqliteTable("samples", {
  id: text().primaryKey(),
  name: text().notNull(),
  type: text().notNull(),
  bytes: blob({ mode: "buffer" }).notNull(),
  createdAt: integer("created_at").notNull(),
});

/** Values of transforms that the user keeps under a name. */
export const presets = sqliteTable(
  "presets",
  {
    id: text().primaryKey(),
    transform: text().notNull(),
    name: text().notNull(),
    params: text({ mode: "json" }).$type<Preset["params"]>().notNull(),
    createdAt: integer("created_at").notNull(),
  },
  (t) => [unique("preset_names").on(t.transform, t.name)],
);
