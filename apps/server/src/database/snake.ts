/** Names of fields as names of columns. @example snake('installedMiB') // 'installed_mib' */
export const snake = (name: string): string =>
  name.replace('MiB', 'Mib').replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
