import { can } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { Choice, type Options } from '../../parts/Choice.js';
import { ExportLinks } from '../../parts/ExportLinks.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { SearchField } from '../../parts/SearchField.js';
import { Tick } from '../../parts/Tick.js';
import { DataTable } from '../../parts/table/DataTable.js';
import { useChosen } from '../../parts/useMany.js';
import { useQuestion } from '../../parts/useQuestion.js';
import { useMe } from '../../people/useMe.js';
import { productsQuery } from '../api.js';
import { ChangeMany } from '../parts/ChangeMany.js';
import { NewProduct } from '../parts/NewProduct.js';
import { PRODUCT_COLUMNS } from '../parts/productColumns.js';

const STAGES: Options = [['', 'every stage'], ...['Unproven', 'Live', 'Retired'].map(s => [s, s] as const)];

/** Products with their stock, what is missing of them, and one change in many at once. */
export default function ProductsPage() {
  const { question, part, set } = useQuestion();
  const [chosen, choose, chooseNone] = useChosen();
  const [making, setMaking] = useState(false);
  const products = useQuery(productsQuery(question));
  const rows = products.data?.rows ?? [];
  const desk = can(useMe(), 'products.change');
  return (
    <>
      <Head
        title="Products"
        about={
          products.data
            ? `${count(rows.length, 'product')}: what each is, where it lies, and what is not known of it yet.`
            : 'What each is, where it lies, and what is not known of it yet.'
        }
      >
        <Button component={Link} to="/products/measured" variant="outlined" color="secondary">
          Measured
        </Button>
        <Button component={Link} to="/products/listings" variant="outlined" color="secondary">
          Listings
        </Button>
        {desk && (
          <>
            <Button component={Link} to="/bring-in?kind=products" variant="outlined" color="secondary">
              Bring in
            </Button>
            <Button variant="contained" onClick={() => setMaking(true)}>
              New product
            </Button>
          </>
        )}
      </Head>
      {desk && chosen.size > 0 && <ChangeMany skus={[...chosen]} done={chooseNone} />}
      <ProblemNote error={products.error} />
      <DataTable
        filters={
          <>
            <SearchField
              label="Name, SKU or code"
              value={part('words')}
              onAsk={words => set('words', words)}
            />
            <Choice
              label="Stage"
              value={part('stage')}
              options={STAGES}
              onChoose={stage => set('stage', stage)}
            />
            <Tick
              label="only where something is missing"
              checked={part('missing') === 'yes'}
              onTick={on => set('missing', on ? 'yes' : '')}
            />
          </>
        }
        name="product"
        label="Products"
        rows={rows}
        idOf={p => p.sku}
        columns={PRODUCT_COLUMNS}
        to={p => `/products/${encodeURIComponent(p.sku)}`}
        chosen={desk ? { ids: chosen, set: choose, nameOf: p => p.sku } : null}
        tools={<ExportLinks what="products" question={question} />}
        empty={
          products.isSuccess &&
          'No product is like this. Clear the field to see all, or bring products in from a file.'
        }
      />
      {making && <NewProduct leave={() => setMaking(false)} />}
    </>
  );
}
