import { ADDRESS_FIELDS, type Address, count, emptyAddress, isLatinAddress } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Field } from '../../parts/Field.js';
import { PickOne } from '../../parts/PickOne.js';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import { buyersQuery } from '../api.js';
import css from '../orders.module.css';
import type { PanelProps, Save } from '../useOrderEdit.js';
import { LatinAddress } from './LatinAddress.js';

/** Where it goes and who pays, each field changed in place; one address is copied onto the other in one press. */
export function AddressPanel({ order: o, save, can }: PanelProps) {
  const [billing, setBilling] = useState(false);
  return (
    <section className={pageCss.panel}>
      <h2>Ship to</h2>
      {o.draft && <BuyerFinder save={save} />}
      <AddressFields
        name="Ship to"
        address={o.shipTo}
        can={can}
        onSave={part => save(now => ({ shipTo: { ...now.shipTo, ...part } }))}
      />
      {can && !o.draft && !isLatinAddress(o.shipTo) && <InLatin orderId={o.row.id} />}
      <Field
        label="Mail"
        placeholder={can ? 'mail' : ''}
        value={o.mail}
        readOnly={!can}
        onSave={mail => void save({ mail })}
      />
      <Field
        label="Pick-up point"
        value={o.pickUpPoint}
        readOnly={!can}
        placeholder={can ? 'pick-up point' : ''}
        onSave={pickUpPoint => void save({ pickUpPoint })}
      />
      {(o.billTo || billing) && (
        <>
          <h2>Bill to</h2>
          <AddressFields
            name="Bill to"
            address={o.billTo ?? emptyAddress('')}
            can={can}
            onSave={part => save(now => ({ billTo: { ...(now.billTo ?? emptyAddress('')), ...part } }))}
          />
        </>
      )}
      {can && (
        <div className={pageCss.row} style={{ gap: 4 }}>
          {!o.billTo && !billing && (
            <Button size="small" onClick={() => setBilling(true)}>
              Bill elsewhere
            </Button>
          )}
          {o.billTo && (
            <>
              <Button size="small" onClick={() => save({ billTo: null })}>
                Bill to the same
              </Button>
              <Button size="small" onClick={() => save({ shipTo: o.billTo! })}>
                Ship to this
              </Button>
            </>
          )}
        </div>
      )}
    </section>
  );
}

/** Asked for where somebody wants a carrier that takes no other letters. */
function InLatin({ orderId }: { orderId: string }) {
  const [open, setOpen] = useState(false);
  return open ? (
    <LatinAddress orderId={orderId} />
  ) : (
    <Button size="small" onClick={() => setOpen(true)}>
      In Latin letters
    </Button>
  );
}

interface AddressProps {
  name: string;
  address: Address;
  can: boolean;
  /** Told the part that changes: what was saved a moment ago beside it stays. */
  onSave: (part: Partial<Address>) => void;
}

function AddressFields({ name, address, can, onSave }: AddressProps) {
  const field = (f: keyof Address) => (
    <Field
      key={f}
      label={`${name}: ${ADDRESS_FIELDS.find(([x]) => x === f)![1]}`}
      placeholder={can ? ADDRESS_FIELDS.find(([x]) => x === f)![1] : ''}
      value={address[f]}
      readOnly={!can}
      onSave={value => void onSave({ [f]: value })}
    />
  );
  return (
    <div className={css.address}>
      {field('name')}
      {(can || address.company) && field('company')}
      {field('line1')}
      {(can || address.line2) && field('line2')}
      <div className={css.town}>
        {field('city')}
        {field('region')}
        {field('postcode')}
        {field('country')}
      </div>
      {field('phone')}
    </div>
  );
}

/** Finds a buyer of earlier orders by name or mail, and takes the address over. */
function BuyerFinder({ save }: { save: Save }) {
  const [words, setWords] = useState('');
  const found = useQuery({ ...buyersQuery(words), enabled: words.trim().length > 1 });
  return (
    <PickOne
      bare
      emptied
      label="Find a buyer"
      placeholder="Bought before? Name or mail"
      value={null}
      options={words.trim().length > 1 ? (found.data ?? []) : []}
      late={words.trim().length > 1 && (found.isPending || found.isPlaceholderData)}
      onWords={setWords}
      wordsOf={b => b.shipTo.name ?? b.mail}
      keyOf={b => b.mail + b.shipTo.name}
      onPick={b => b && save({ mail: b.mail, shipTo: { ...emptyAddress('US'), ...b.shipTo } })}
      show={b => (
        <>
          <span className={pageCss.grow}>
            <b>{b.shipTo.name}</b> {b.shipTo.line1}, {b.shipTo.city}
          </span>
          <span className={textCss.quiet}>{count(b.orders, 'order')}</span>
        </>
      )}
    />
  );
}
