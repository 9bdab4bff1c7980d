import type { Stage } from '@auk/core';
import textCss from './text.module.css';

/** Shape, word and colour of each stage; shapes are an alphabet of their own. */
const LOOK: Record<Stage, [shape: string, tone: string]> = {
  Incoming: ['○', ''],
  Stopped: ['▲', 'stop'],
  Parked: ['❚❚', ''],
  Short: ['◆', 'risk'],
  Clear: ['●', 'tide'],
  Elsewhere: ['⇢', ''],
  Listed: ['◐', ''],
  Picked: ['◑', ''],
  Packed: ['◼', ''],
  Labelled: ['◼', 'good'],
  Departed: ['▶', 'good'],
  Cancelled: ['—', ''],
};

/** A stage as shape, word and colour. */
export function StageMark({ stage }: { stage: Stage }) {
  const [shape, tone] = LOOK[stage];
  return (
    <span className={`${textCss.stage} ${tone && textCss[tone]}`} data-part="stage">
      <span aria-hidden="true">{shape}</span> {stage}
    </span>
  );
}
