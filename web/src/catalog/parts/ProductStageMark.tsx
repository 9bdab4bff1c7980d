import textCss from '../../parts/text.module.css';

const LOOK: Record<string, [shape: string, tone: string]> = {
  Unproven: ['◇', 'risk'],
  Live: ['◉', 'good'],
  Retired: ['⊘', ''],
};

/** A product's stage as shape, word and colour. */
export function ProductStageMark({ stage }: { stage: string }) {
  const [shape, tone] = LOOK[stage] ?? ['', ''];
  return (
    <span className={`${textCss.stage} ${tone && textCss[tone]}`}>
      <span aria-hidden="true">{shape}</span> {stage}
    </span>
  );
}
