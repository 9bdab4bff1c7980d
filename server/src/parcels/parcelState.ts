/** The word for where a parcel stands. */
export function parcelState(p: {
  closedAt: Date | null;
  misfit: string | null;
  handedOverAt: Date | null;
  departedAt: Date | null;
  label: string | null;
}): string {
  if (p.departedAt) return 'departed';
  if (p.handedOverAt) return 'handed over';
  if (p.misfit) return 'wrong label';
  if (p.label === 'bought') return p.closedAt ? 'labelled' : 'labelled ahead';
  if (p.label) return `label ${p.label}`;
  return p.closedAt ? 'packed' : 'being packed';
}
