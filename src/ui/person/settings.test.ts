import { beforeEach, describe, expect, it, vi } from "vitest";

/** A browser's storage that is shared by tabs, and may refuse. */
function storage(kept: Record<string, string> = {}) {
  const map = new Map(Object.entries(kept));
  const store = {
    refuses: false,
    map,
    getItem: (key: string) => map.get(key) ?? null,
    setItem(key: string, value: string) {
      if (store.refuses) throw new Error("QuotaExceededError");
      map.set(key, value);
    },
  };
  vi.stubGlobal("localStorage", store);
  return store;
}

/** A tab of its own: the module as it is when a page is loaded. */
async function tab() {
  vi.resetModules();
  return import("./settings");
}

beforeEach(() => vi.unstubAllGlobals());

describe("settings", () => {
  it("are kept under one key, each as it is at first where nothing right was kept", async () => {
    const store = storage({
      "hailstep-settings": JSON.stringify({
        velocity: 70,
        countIn: 7,
        layout: "backwards",
        midiInput: "x".repeat(500),
        lastExport: { format: 3 },
        theme: "slate",
        unknown: 1,
      }),
    });
    const { settings, setSettings } = await tab();
    expect(settings()).toMatchObject({
      velocity: 70,
      countIn: 1,
      layout: "piano",
      midiInput: null,
      lastExport: null,
      theme: "slate",
    });
    setSettings({ countIn: 2 });
    const kept = JSON.parse(store.map.get("hailstep-settings")!) as Record<string, unknown>;
    expect(kept).toMatchObject({ countIn: 2, velocity: 70, theme: "slate" });
    expect(kept).not.toHaveProperty("unknown");
  });

  it("come over from where earlier versions kept them", async () => {
    const wish = { format: "midi", extent: "song", answers: { rounds: 4 } };
    storage({
      "hailstep-theme": "slate",
      "hailstep-play": JSON.stringify({ record: "take", clickLevel: -6, latency: "late" }),
      "hailstep-export": JSON.stringify(wish),
    });
    const { settings, setSettings } = await tab();
    const old = { theme: "slate", record: "take", clickLevel: -6, latency: 0, lastExport: wish };
    expect(settings()).toMatchObject(old);
    setSettings({ velocity: 50 });
    expect((await tab()).settings()).toMatchObject({ ...old, velocity: 50 });
  });

  it("survive what is no JSON, and a browser that keeps nothing", async () => {
    const store = storage({ "hailstep-settings": "{", "hailstep-play": "[1]" });
    const { settings, setSettings, watchSettings } = await tab();
    expect(settings().record).toBe("overdub");
    store.refuses = true;
    const told = vi.fn();
    const stop = watchSettings(told);
    store.map.set("hailstep-settings", JSON.stringify({ record: "overdub", velocity: 30 }));
    setSettings({ record: "replace" });
    setSettings({ velocity: 50 });
    expect([settings().record, told.mock.calls.length]).toEqual(["replace", 2]);
    stop();
    setSettings({ record: "take" });
    expect(told).toHaveBeenCalledTimes(2);
  });

  it("of two tabs do not undo each other's", async () => {
    storage();
    const one = await tab();
    const other = await tab();
    expect([one.settings().velocity, other.settings().countIn]).toEqual([96, 1]);
    one.setSettings({ velocity: 40 });
    other.setSettings({ countIn: 0 });
    expect((await tab()).settings()).toMatchObject({ velocity: 40, countIn: 0 });
  });

  it("hear of another tab's change, and of no other key's", async () => {
    const store = storage();
    const heard: ((event: { key: string }) => void)[] = [];
    vi.stubGlobal("addEventListener", (_: string, hear: (event: { key: string }) => void) =>
      heard.push(hear),
    );
    const { settings, watchSettings } = await tab();
    const told = vi.fn();
    watchSettings(told);
    watchSettings(vi.fn());
    expect(heard).toHaveLength(1);
    expect(settings().velocity).toBe(96);
    store.map.set("hailstep-settings", JSON.stringify({ velocity: 33, keys: { mixer: ["x"] } }));
    heard[0]!({ key: "something-else" });
    expect([told.mock.calls.length, settings().velocity]).toEqual([0, 96]);
    heard[0]!({ key: "hailstep-settings" });
    expect(told).toHaveBeenCalledTimes(1);
    expect(settings()).toMatchObject({ velocity: 33, keys: { mixer: ["x"] } });
  });

  it("take no keys that are none", async () => {
    storage({ "hailstep-settings": JSON.stringify({ keys: { mixer: ["a b"] }, velocity: 5 }) });
    expect((await tab()).settings()).toMatchObject({ keys: {}, velocity: 5 });
    for (const keys of [[], { a: "x" }, { a: ["x", "y", "z", "u", "v"] }, { a: [3] }]) {
      storage({ "hailstep-settings": JSON.stringify({ keys }) });
      expect((await tab()).settings().keys).toEqual({});
    }
  });

  it("are taken from a file as far as they are right, and from no other file", async () => {
    storage();
    const { settings, takeSettings, settingsText } = await tab();
    expect(takeSettings("no json")).toBeNull();
    expect(takeSettings('{"colour":"red"}')).toBeNull();
    expect(takeSettings('{"velocity":61,"theme":"plaid","colour":1}')).toEqual(["theme", "colour"]);
    expect(settings()).toMatchObject({ velocity: 61, theme: null });
    expect(JSON.parse(settingsText())).toEqual(settings());
  });

  it("go back to what they are at first", async () => {
    storage();
    const { settings, setSettings, resetSettings } = await tab();
    const first = settings();
    setSettings({ clickAccent: false, theme: "overcast" });
    resetSettings();
    expect(settings()).toEqual(first);
  });
});
