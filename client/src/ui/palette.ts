/** The colours of `global.css` for what is drawn on a canvas or by a foreign component. */
export type ColourName = 'ink' | 'raised' | 'line' | 'bone' | 'quiet' | 'slow' | 'fast' | 'back' | 'frozen' | 'wrong';

/** A theme colour as CSS text, with an opacity of 0…1. */
export function colour(name: ColourName, opacity = 1): string {
  const channels = channelsOf(name);
  return opacity === 1 ? `rgb(${channels})` : `rgb(${channels} / ${opacity})`;
}

// Asking the browser for a computed style is slow, and drawing asks hundreds of times.
let known = new Map<ColourName, string>();
let knownTheme: string | undefined;

function channelsOf(name: ColourName): string {
  const { theme } = document.documentElement.dataset;
  if (theme !== knownTheme) [known, knownTheme] = [new Map(), theme];
  let channels = known.get(name);
  if (channels === undefined) {
    channels = getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim() || '128 128 128';
    known.set(name, channels);
  }
  return channels;
}

/**
 * Reads all colours once, and draws a word in the axes' font, before anything must be quick: the first of each waits for
 * the browser to work out styles and shape the font.
 */
export function primeDrawing(): void {
  for (const speed of [-1, 0, 0.5, 1, 2]) speedColour(speed);
  for (const name of ['ink', 'raised', 'line', 'quiet', 'wrong'] as const) colour(name);
  const context = document.createElement('canvas').getContext('2d');
  if (!context) return;
  context.font = AXIS_FONT;
  context.fillText('×0.25 00:00:00:00 real-frame floor%', 0, 10);
}

/** The font of the axes of what is drawn. */
export const AXIS_FONT = '11px SplineSansMono_400Regular, monospace';

const mix = (a: ColourName, b: ColourName, share: number): string => {
  const [from, to] = [channelsOf(a), channelsOf(b)].map((text) => text.split(' ').map(Number)) as [number[], number[]];
  return `rgb(${from.map((value, i) => Math.round(value + (to[i]! - value) * share)).join(' ')})`;
};

/** Shades between real time and the slowest or fastest colour; more could not be told apart. */
const SHADES = 24;
let shades: string[] = [];
let shadesTheme: string | undefined;

function shade(octaves: number): string {
  const { theme } = document.documentElement.dataset;
  if (theme !== shadesTheme || shades.length === 0) {
    shades = Array.from({ length: 2 * SHADES + 1 }, (_, i) =>
      mix('bone', i < SHADES ? 'slow' : 'fast', Math.abs(i - SHADES) / SHADES),
    );
    shadesTheme = theme;
  }
  return shades[SHADES + Math.round(octaves * SHADES)]!;
}

/**
 * The one colour scale of speed: backwards violet, freeze pale blue, slow teal, real time bone, fast vermilion; between them by
 * the logarithm of the speed, done at ×0.25 and ×4.
 */
export function speedColour(speed: number): string {
  if (Math.abs(speed) < 1e-9) return colour('frozen');
  if (speed < 0) return colour('back');
  return shade(Math.max(-1, Math.min(1, Math.log2(speed) / 2)));
}

/** What a speed is, as a glyph: never colour alone. */
export function speedGlyph(speed: number): string {
  if (Math.abs(speed) < 1e-9) return '■';
  if (speed < 0) return '◀';
  if (Math.abs(speed - 1) < 1e-9) return '·';
  return speed < 1 ? '▽' : '△';
}
