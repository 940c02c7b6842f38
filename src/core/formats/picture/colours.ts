/** Colours of the sheet as files hold them: plain sRGB, which every reader knows. */
export interface PictureColours {
  ground: string;
  beat: string;
  line: string;
  quiet: string;
  text: string;
  tracks: readonly string[];
}

export const PICTURE_COLOURS = {
  light: {
    ground: "#edf1f1",
    beat: "#f4f7f7",
    line: "#c3cccd",
    quiet: "#536569",
    text: "#1c2528",
    tracks: [
      "#006173",
      "#994920",
      "#5b4590",
      "#446a2c",
      "#1b589e",
      "#8e3665",
      "#7d5e07",
      "#0d6a58",
    ],
  },
  dark: {
    ground: "#12181b",
    beat: "#171f23",
    line: "#3a4850",
    quiet: "#9fb0b5",
    text: "#e6ecee",
    tracks: [
      "#6cc7d7",
      "#eea471",
      "#c1a9ee",
      "#9fce85",
      "#89b7f3",
      "#ef99bb",
      "#ddc276",
      "#7cceb2",
    ],
  },
} as const satisfies Record<string, PictureColours>;
