import type { Random } from "@/core/base";
import type { Project } from "@/core/score";
import { headOf } from "@/core/stored";
import { writeProjectJson, writeSmf } from "@/core/formats";
import { waveFile } from "../scripts/wave.mjs";
import { mutated, mutatedBytes } from "./mutate";

/** A request to be sent. */
export interface Sent {
  method: string;
  path: string;
  body?: Uint8Array<ArrayBuffer>;
}

/** What is there to be sent about. */
export interface Ground {
  id: string;
  revision: number;
  project: Project;
}

const utf8 = (value: unknown) => new TextEncoder().encode(JSON.stringify(value) ?? "null");
const oneOf = <T>(list: readonly T[], random: Random): T =>
  list[Math.floor(random() * list.length)]!;

/** A short sound. */
const WAVE = new Uint8Array(waveFile(new Int16Array(32), { rate: 8000 }));

/** A change of every kind, valid as it stands. */
function changeOf({ project }: Ground, random: Random) {
  const pattern = project.patterns[0]!;
  const part = oneOf(pattern.parts, random);
  const { parts: _, ...head } = pattern;
  return oneOf(
    [
      { head: headOf(project) },
      { tracks: [oneOf(project.tracks, random)] },
      { trackOrder: project.tracks.map((track) => track.id) },
      { patterns: [head], patternOrder: project.patterns.map((p) => p.id) },
      { parts: [{ pattern: pattern.id, part }] },
      {
        partEdits: [
          { pattern: pattern.id, track: part.track, removed: [], put: part.notes.slice(0, 2) },
        ],
      },
    ],
    random,
  );
}

type Maker = (ground: Ground, random: Random) => Sent;

const json = (method: string, path: string, body: unknown, random: Random): Sent => {
  let value = body;
  for (let n = Math.floor(random() * 4); n > 0; n--) value = mutated(value, random);
  const bytes = utf8(value);
  return { method, path, body: random() < 0.1 ? mutatedBytes(bytes, random) : bytes };
};

/** One for each route that takes something in. */
const MAKERS: readonly Maker[] = [
  (ground, random) =>
    json(
      "PATCH",
      `/api/projects/${ground.id}`,
      { revision: ground.revision, change: changeOf(ground, random) },
      random,
    ),
  (_, random) => json("POST", "/api/projects", { name: "Fuzz" }, random),
  (_, random) =>
    json(
      "PUT",
      "/api/user/grids",
      { recent: [{ value: 16, kind: "straight", swing: 50 }], pinned: [] },
      random,
    ),
  (_, random) =>
    json(
      "POST",
      "/api/user/presets",
      { transform: "roll", name: "Fuzz", params: { count: 3 } },
      random,
    ),
  ({ project }, random) => {
    const file = JSON.parse(writeProjectJson(project)) as unknown;
    return json("POST", "/api/import?name=fuzz.json", file, random);
  },
  ({ project }, random) => ({
    method: "POST",
    path: "/api/import?name=fuzz.mid",
    body: mutatedBytes(writeSmf(project) as Uint8Array<ArrayBuffer>, random),
  }),
  (_, random) => ({
    method: "POST",
    path: "/api/samples?name=fuzz.wav",
    body: mutatedBytes(WAVE, random),
  }),
  ({ id }, random) => {
    const path = oneOf(
      [
        `/api/projects/${id}/export?format=mid&pattern=a`,
        `/api/projects/${id}?other=1&stamp=x`,
        "/api/projects?search=a&sort=name&offset=0&limit=5",
        `/api/projects/${id}/duplicate`,
        "/api/samples/0123456789abcdef0123456789abcdef",
        `/api/user/presets/${id}`,
        `/p/${id}`,
        "/",
      ],
      random,
    );
    const text = new TextDecoder("latin1").decode(
      mutatedBytes(new TextEncoder().encode(path), random),
    );
    const safe = `/${text.replace(/^\/+/, "").replace(/[\s\x00-\x20#\x7f-\xff"<>\\^`{|}]/g, (c) => (random() < 0.3 ? "%" : encodeURIComponent(c)))}`;
    return { method: oneOf(["GET", "GET", "GET", "POST", "PUT", "OPTIONS"], random), path: safe };
  },
];

/** A request that is nearly right. */
export const makeRequest: Maker = (ground, random) => oneOf(MAKERS, random)(ground, random);
