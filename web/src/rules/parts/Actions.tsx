import { CARRIED_OUT, type RuleWords } from '@auk/contract';
import { ACTIONS, type Action, type ActionName, ANY_SERVICE, type Condition, type Moment } from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Choice, type Options } from '../../parts/Choice.js';
import { Drop } from '../../parts/Drop.js';
import { Tick } from '../../parts/Tick.js';
import css from '../rules.module.css';
import { actionOptions } from '../words.js';
import { Conditions } from './Conditions.js';
import { Words } from './Words.js';

interface Props {
  actions: readonly Action[];
  at: Moment;
  currency: string;
  words: RuleWords | undefined;
  onChange: (actions: Action[]) => void;
}

/** What a rule does, one thing after another. Only what may be done at its moment is offered. */
export function Actions({ actions, at, currency, words, onChange }: Props) {
  const options = actionOptions(at, CARRIED_OUT);
  const put = (i: number, a: Action) => onChange(actions.with(i, a));
  const wrong = (a: Action) => !options.some(([name]) => name === a.do);
  return (
    <section className={css.group} aria-label="Then">
      {actions.map((a, i) => (
        <div key={i} className={css.part}>
          <Choice
            bare
            label="What is done"
            value={a.do}
            options={wrong(a) ? [[a.do, `${ACTIONS[a.do].words} (not then)`], ...options] : options}
            onChoose={name => put(i, begun(name, words))}
          />
          <Given action={a} currency={currency} words={words} onChange={given => put(i, given)} />
          <Drop label="Take this out" onDrop={() => onChange(actions.filter((_, k) => k !== i))} />
        </div>
      ))}
      <span>
        <Button size="small" onClick={() => onChange([...actions, begun(options[0]![0], words)])}>
          {actions.length === 0 ? 'Do something' : 'And do'}
        </Button>
      </span>
    </section>
  );
}

/** An action with what it is given to begin with. */
function begun(name: ActionName, words: RuleWords | undefined): Action {
  switch (ACTIONS[name].given) {
    case 'nothing':
      return { do: name };
    case 'services':
      return { do: name, with: [ANY_SERVICE] };
    case 'service':
      return { do: name, with: words?.services[0]?.code ?? '' };
    case 'money':
      return { do: name, with: '50.00' };
    case 'lines':
      return { do: name, with: { all: [{ field: 'product', is: 'one of', value: [] }] } };
    case 'code':
      return { do: name, with: codeOptions(name, words)[0]?.[0] ?? '' };
    default:
      return { do: name, with: '' };
  }
}

interface GivenProps {
  action: Action;
  currency: string;
  words: RuleWords | undefined;
  onChange: (action: Action) => void;
}

function Given({ action, currency, words, onChange }: GivenProps) {
  const { given } = ACTIONS[action.do];
  const give = (value: string) => onChange({ ...action, with: value });
  const label = ACTIONS[action.do].words;
  const value = typeof action.with === 'string' ? action.with : '';
  if (given === 'nothing') return null;
  if (given === 'lines')
    return (
      <Conditions
        of="line"
        condition={action.with as Condition}
        words={words}
        currency={currency}
        onChange={c => onChange({ ...action, with: 'field' in c ? { all: [c] } : c })}
      />
    );
  if (given === 'services') return <Services action={action} words={words} onChange={onChange} />;
  if (given === 'service' || given === 'code') {
    const options = given === 'service' ? serviceOptions(words) : codeOptions(action.do, words);
    const known = options.some(([code]) => code === value);
    return (
      <Choice
        bare
        label={label}
        value={value}
        options={
          known ? options : [[value, value === '' ? 'none is there' : `${value} (not there)`], ...options]
        }
        onChoose={give}
      />
    );
  }
  return (
    <TextField
      value={value}
      onChange={e => give(e.target.value)}
      placeholder={given === 'money' ? '50.00' : ''}
      slotProps={{ htmlInput: { 'aria-label': label, maxLength: 200 } }}
      sx={{ flex: 1, minWidth: '8rem' }}
    />
  );
}

const serviceOptions = (words: RuleWords | undefined): Options =>
  (words?.services ?? []).map(s => [s.code, s.name]);

function codeOptions(name: ActionName, words: RuleWords | undefined): Options {
  if (name === 'box') return (words?.boxes ?? []).map(b => [b.code, b.name]);
  const offered: Partial<Record<ActionName, readonly string[] | undefined>> = {
    slip: words?.slips,
    papers: words?.papers,
    mail: words?.mails,
  };
  const names = name in offered ? offered[name] : words?.templates;
  return (names ?? []).map(t => [t, t]);
}

/** The cheapest of all services, or of some. */
function Services({ action, words, onChange }: Omit<GivenProps, 'currency'>) {
  const all = (action.with as readonly string[]).includes(ANY_SERVICE);
  const names = new Map(words?.services.map(s => [s.code, s.name]));
  return (
    <>
      <Tick
        label="of all"
        checked={all}
        onTick={on =>
          onChange({
            ...action,
            with: on ? [ANY_SERVICE] : (words?.services.slice(0, 1).map(s => s.code) ?? []),
          })
        }
      />
      {!all && (
        <Words
          label="Of these services"
          typed={false}
          value={action.with as readonly string[]}
          options={words?.services.map(s => s.code) ?? []}
          called={code => names.get(code) ?? code}
          onChange={codes => onChange({ ...action, with: codes })}
        />
      )}
    </>
  );
}
