export type Theme = 'light' | 'dark' | 'system';

const storageKey = 'beacon-theme';
const dark = window.matchMedia?.('(prefers-color-scheme: dark)');

/** The theme the person chose, or the system's. */
export function savedTheme(): Theme {
  const saved = localStorage.getItem(storageKey);
  return saved === 'light' || saved === 'dark' ? saved : 'system';
}

/** Shows a theme and remembers it. */
export function applyTheme(theme: Theme): void {
  localStorage.setItem(storageKey, theme);
  const shown = theme === 'system' ? (dark?.matches ? 'dark' : 'light') : theme;
  document.documentElement.dataset.theme = shown;
}

/** What is shown now. */
export function shownTheme(): 'light' | 'dark' {
  return document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light';
}
