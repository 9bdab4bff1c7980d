import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { say } from '../../parts/say.js';
import { pressFor } from '../press.js';
import { usePressTarget } from '../target.js';
import Buttons from './Buttons.js';

/** The buttons of the rule book on an order's page; their codes press them, too. */
export function OrderButtons({ orderId }: { orderId: string }) {
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const press = async (code: string) => {
    setBusy(true);
    const { says, cure } = await pressFor(orderId, code);
    setBusy(false);
    say(`${says} ${cure}`.trim());
    await changed(client, 'orders', 'rules');
  };
  usePressTarget(code => void press(code));
  return <Buttons place="order" size="medium" disabled={busy} onPress={code => void press(code)} />;
}
