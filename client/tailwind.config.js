const colour = (name) => `rgb(var(--${name}) / <alpha-value>)`;

/** Colours are CSS variables, so that the theme is one attribute; their values stand in global.css only. */
module.exports = {
  content: ['./app/**/*.tsx', './src/**/*.tsx'],
  presets: [require('nativewind/preset')],
  theme: {
    extend: {
      colors: Object.fromEntries(
        ['ink', 'raised', 'line', 'bone', 'quiet', 'slow', 'fast', 'back', 'frozen', 'wrong'].map((name) => [
          name,
          colour(name),
        ]),
      ),
      fontFamily: {
        sans: ['SchibstedGrotesk_400Regular', 'sans-serif'],
        medium: ['SchibstedGrotesk_600SemiBold', 'sans-serif'],
        mono: ['SplineSansMono_400Regular', 'monospace'],
        'mono-medium': ['SplineSansMono_600SemiBold', 'monospace'],
      },
    },
  },
};
