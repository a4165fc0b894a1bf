/** Where the sheet of what stands in an answer is. */
export function pathOf({ kind, id }: { kind: string; id: string }): string {
  if (kind === 'device') return `/networks/devices?open=${id}`;
  if (kind === 'physicalSwitch' || kind === 'line') return `/networks/switches?open=${id}`;
  return `/${kind}s/${id}`;
}
