import type { InboundStage } from '@auk/core';
import textCss from '../parts/text.module.css';

/** Shape, word and colour of each stage of a shipment. */
const LOOK: Record<InboundStage, [shape: string, tone: string]> = {
  Draft: ['○', ''],
  Boxed: ['◼', ''],
  Booked: ['◼', 'tide'],
  Travelling: ['▶', 'tide'],
  'At dock': ['◐', 'tide'],
  'Counting in': ['◑', 'risk'],
  Closed: ['●', 'good'],
  Cancelled: ['—', ''],
};

/** A stage of a shipment as shape, word and colour. */
export function InboundMark({ stage }: { stage: InboundStage }) {
  const [shape, tone] = LOOK[stage];
  return (
    <span className={`${textCss.stage} ${tone && textCss[tone]}`} data-part="stage">
      <span aria-hidden="true">{shape}</span> {stage}
    </span>
  );
}
