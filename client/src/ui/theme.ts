type Theme = 'dark' | 'light';

const KEY = 'hastig-theme';

export function currentTheme(): Theme {
  return localStorage.getItem(KEY) === 'light' ? 'light' : 'dark';
}

/** Puts a theme into force and remembers it in this browser. */
export function applyTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  document.documentElement.dataset.theme = theme;
}
