const LOOK: Record<string, [shape: string, tone: string]> = {
  Unproven: ['◇', 'risk'],
  Live: ['◉', 'good'],
  Retired: ['⊘', ''],
};

/** A product's stage as shape, word and colour. */
export function ProductStageMark({ stage }: { stage: string }) {
  const [shape, tone] = LOOK[stage] ?? ['', ''];
  return (
    <span className={`stage ${tone}`}>
      <span aria-hidden="true">{shape}</span> {stage}
    </span>
  );
}
