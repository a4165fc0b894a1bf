/** Day or night: as the system says, until somebody chooses. */
const chosen = () => localStorage.getItem('light');

export function applyLight(): void {
  const night = chosen()
    ? chosen() === 'night'
    : matchMedia('(prefers-color-scheme: dark)').matches;
  document.documentElement.dataset.light = night ? 'night' : 'day';
}

export function switchLight(): void {
  localStorage.setItem(
    'light',
    document.documentElement.dataset.light === 'night' ? 'day' : 'night',
  );
  applyLight();
}
