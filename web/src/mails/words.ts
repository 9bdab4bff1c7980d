import type { Alert, MailMoment } from '@auk/contract';

/** When a mail is sent, in words. */
export const MOMENTS: Record<MailMoment, string> = {
  entered: 'the order was taken',
  packed: 'it is packed',
  labelled: 'its label is bought',
  departed: 'it has left',
  cancelled: 'it was cancelled',
  'on the way': 'it is out for delivery',
  delivered: 'it was delivered',
  exception: 'it is held up on its way',
  back: 'it comes back',
  message: 'somebody writes to the buyer',
  rule: 'a rule sends it',
};

export const ALERT_WORDS: Record<Alert, string> = {
  order: 'a new order',
  trouble: 'trouble on the way',
  message: 'a buyer writes',
};
