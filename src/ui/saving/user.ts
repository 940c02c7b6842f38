import { createStore } from "zustand/vanilla";
import { useStore } from "zustand";
import { type Grid, gridName } from "@/core/time";
import type { Preset, UserGrids } from "@/core/stored";
import { api } from "./api";

/** How many grids are remembered, and how many of them are lined up under keys. */
const REMEMBERED = 12;
export const KEYED_GRIDS = 6;
/** A grid counts as used when it stays this long, so that stepping past others does not. */
const SETTLE_MS = 700;

interface UserState {
  grids: UserGrids;
  presets: readonly Preset[];
  loaded: boolean;
}

/** What belongs to the user and not to a project. One for the page. */
const store = createStore<UserState>()(() => ({
  grids: { recent: [], pinned: [] },
  presets: [],
  loaded: false,
}));

const same = (a: Grid, b: Grid) => gridName(a) === gridName(b);
const without = (list: readonly Grid[], grid: Grid) => list.filter((other) => !same(other, grid));

let loading: Promise<void> | null = null;

/** Fetches the user's grids and presets, once. */
export function loadUser(): Promise<void> {
  if (store.getState().loaded) return Promise.resolve();
  loading ??= fetchUser().finally(() => (loading = null));
  return loading;
}

async function fetchUser(): Promise<void> {
  try {
    const { grids, presets } = await api.user();
    // Grids used and pinned while it was on its way come first.
    const { recent, pinned } = store.getState().grids;
    const joined = (mine: readonly Grid[], theirs: readonly Grid[]) => [
      ...mine,
      ...theirs.filter((grid) => !mine.some((m) => same(m, grid))),
    ];
    const all = {
      recent: joined(recent, grids.recent).slice(0, REMEMBERED),
      pinned: joined(grids.pinned, pinned).slice(-KEYED_GRIDS),
    };
    store.setState({ grids: all, presets, loaded: true });
  } catch {
    // Without the server there are no presets to show; the next change tries again.
  }
}

/** Keeps grids here and on the server: there only once what it has is known, or that would be lost. */
function keep(grids: UserGrids): void {
  store.setState({ grids });
  const send = async () => {
    await loadUser();
    if (store.getState().loaded) await api.setGrids(store.getState().grids);
  };
  void send().catch(() => undefined);
}

let settling: ReturnType<typeof setTimeout> | null = null;

function remember(grid: Grid): void {
  if (grid.kind === "off") return;
  const { grids } = store.getState();
  if (grids.recent[0] && same(grids.recent[0], grid)) return;
  keep({ ...grids, recent: [grid, ...without(grids.recent, grid)].slice(0, REMEMBERED) });
}

/** Remembers the grid that was left and, once it stays, the one taken instead. */
export function gridUsed(before: Grid, now: Grid): void {
  if (settling) clearTimeout(settling);
  else remember(before);
  settling = setTimeout(() => {
    settling = null;
    remember(now);
  }, SETTLE_MS);
}

/** Pins a grid, or takes the pin out. */
export function togglePin(grid: Grid): void {
  if (grid.kind === "off") return;
  const { grids } = store.getState();
  const pinned = grids.pinned.some((p) => same(p, grid))
    ? without(grids.pinned, grid)
    : [...grids.pinned, grid].slice(-KEYED_GRIDS);
  keep({ ...grids, pinned });
}

/** A grid one key away, pinned or recent. */
export interface KeyedGrid {
  grid: Grid;
  pinned: boolean;
}

/** The grids that lie one key away: pinned ones first, then recent ones, then the project's. */
export function keyedFrom(grids: UserGrids, used: readonly Grid[]): KeyedGrid[] {
  const list: KeyedGrid[] = grids.pinned.map((grid) => ({ grid: grid, pinned: true }));
  for (const grid of [...grids.recent, ...used]) {
    if (grid.kind !== "off" && !list.some((other) => same(other.grid, grid))) {
      list.push({ grid: grid, pinned: false });
    }
  }
  return list.slice(0, KEYED_GRIDS);
}

/**
 * Saves values of a transform, a sound or a kit under a name, in place of those of the same name; throws a
 * RequestError.
 */
export async function savePreset(
  transform: string,
  name: string,
  params: Preset["params"],
): Promise<void> {
  const preset = await api.addPreset({ transform, name, params });
  const others = store.getState().presets.filter((p) => p.id !== preset.id);
  store.setState({ presets: [...others, preset].sort((a, b) => (a.name < b.name ? -1 : 1)) });
}

/** Deletes a preset; throws a RequestError. */
export async function removePreset(id: string): Promise<void> {
  await api.removePreset(id);
  store.setState({ presets: store.getState().presets.filter((preset) => preset.id !== id) });
}

/** The user’s grids just now. */
export const userGrids = () => store.getState().grids;

/** Something of what belongs to the user; the component renders again when it changes. */
export function useUser<T>(select: (state: UserState) => T): T {
  return useStore(store, select);
}
