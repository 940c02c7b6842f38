/** Runs before the first paint: the theme chosen last, else what the system asks for. */
export const THEME_SCRIPT = `try{var t=localStorage.getItem("hailstep-theme");document.documentElement.dataset.theme=t==="slate"||t==="overcast"?t:matchMedia("(prefers-color-scheme: dark)").matches?"slate":"overcast"}catch(e){}`;
