import type { RuleWords } from '@auk/contract';
import {
  checkBook,
  type Moment,
  plain,
  type Rule,
  type Button as RuleButton,
  readSentence,
  sentenceOf,
} from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Choice } from '../../parts/Choice.js';
import pageCss from '../../parts/page.module.css';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import css from '../rules.module.css';
import { BUTTON_PLACES, momentOptions } from '../words.js';
import { Actions } from './Actions.js';
import { Conditions } from './Conditions.js';

interface Props {
  rule: Rule;
  group: string;
  words: RuleWords | undefined;
  currency: string;
  onChange: (rule: Rule) => void;
  onGroup: (name: string) => void;
  onCopy: () => void;
  onRemove: () => void;
  onLeave: () => void;
}

/** A rule taken apart: its name, when it runs, what must hold, what it does. Each change is seen at once in the sentence above. */
export function RuleEditor(props: Props) {
  const { rule, words, currency, onChange } = props;
  const [written, setWritten] = useState(false);
  const problems = checkBook({ rows: [rule] }, currency);
  return (
    <div className={css.editor}>
      <div className={css.part}>
        <TextField
          label="Name"
          value={rule.name}
          onChange={e => onChange({ ...rule, name: e.target.value.slice(0, 80) })}
          autoFocus={rule.name === ''}
          sx={{ flex: 2 }}
        />
        <Choice
          label="It runs"
          value={rule.at}
          options={momentOptions}
          onChoose={at => onChange(ranAt(rule, at))}
        />
        <Group name={props.group} onName={props.onGroup} />
      </div>
      {rule.button && (
        <ButtonFields button={rule.button} onChange={button => onChange({ ...rule, button })} />
      )}
      {written ? (
        <Written rule={rule} onChange={onChange} />
      ) : (
        <div className={css.two}>
          <div>
            <h3>When</h3>
            <Conditions
              condition={rule.when}
              words={words}
              currency={currency}
              onChange={when => onChange({ ...rule, when: 'field' in when ? { all: [when] } : when })}
            />
          </div>
          <div>
            <h3>Then</h3>
            <Actions
              actions={rule.do}
              at={rule.at}
              currency={currency}
              words={words}
              onChange={does => onChange({ ...rule, do: does })}
            />
            <Tick
              label="and stop: the rest of the book is passed over"
              checked={rule.stop}
              onTick={stop => onChange({ ...rule, stop })}
            />
          </div>
        </div>
      )}
      <TextField
        label="What it is for"
        value={rule.note}
        multiline
        fullWidth
        onChange={e => onChange({ ...rule, note: e.target.value.slice(0, 500) })}
      />
      {problems.map(p => (
        <p key={p.where + p.says} className={textCss.stop} role="alert">
          ▲ It {p.says}. {p.cure}
        </p>
      ))}
      <div className={pageCss.inline}>
        <Button size="small" variant="outlined" onClick={props.onLeave}>
          Done
        </Button>
        <Button size="small" onClick={() => setWritten(!written)}>
          {written ? 'Choose it' : 'Write it'}
        </Button>
        <Button size="small" onClick={props.onCopy}>
          Copy
        </Button>
        <Button size="small" onClick={props.onRemove}>
          Take out
        </Button>
      </div>
    </div>
  );
}

/** A rule at another moment; at a button it has one, elsewhere none. */
function ranAt(
  { button = { words: '', places: ['order', 'bench'], code: 'RB-' }, ...rule }: Rule,
  at: Moment,
): Rule {
  return at === 'button' ? { ...rule, at, button } : { ...rule, at };
}

/** What stands on a button, the code that presses it, and where it is found. */
function ButtonFields({ button, onChange }: { button: RuleButton; onChange: (button: RuleButton) => void }) {
  const places = Object.entries(BUTTON_PLACES) as [RuleButton['places'][number], string][];
  return (
    <div className={css.part}>
      <TextField
        label="On the button"
        value={button.words}
        onChange={e => onChange({ ...button, words: e.target.value.slice(0, 30) })}
        sx={{ flex: 1 }}
      />
      <TextField
        label="Its code"
        value={button.code}
        onChange={e => onChange({ ...button, code: e.target.value.toUpperCase().slice(0, 15) })}
        helperText="RB- and letters or digits"
        sx={{ flex: 1 }}
      />
      {places.map(([place, words]) => (
        <Tick
          key={place}
          label={words}
          checked={button.places.includes(place)}
          onTick={on =>
            onChange({
              ...button,
              places: on ? [...button.places, place] : button.places.filter(p => p !== place),
            })
          }
        />
      ))}
    </div>
  );
}

/** The group that a rule stands in, taken over when the field is left. */
function Group({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  return (
    <TextField
      label="Group"
      value={text}
      onChange={e => setText(e.target.value.slice(0, 80))}
      onBlur={() => onName(text.trim())}
      onKeyDown={e => e.key === 'Enter' && onName(text.trim())}
      sx={{ flex: 1 }}
    />
  );
}

/** The rule as one sentence, for who would rather write it. What cannot be read is told where it stands, and not taken. */
function Written({ rule, onChange }: { rule: Rule; onChange: (rule: Rule) => void }) {
  const [text, setText] = useState(() => sentenceOf({ ...rule, when: plain(rule.when) }));
  const read = readSentence(text);
  return (
    <TextField
      label="In words"
      value={text}
      multiline
      fullWidth
      error={!read.ok}
      helperText={
        read.ok
          ? 'Each word as it is written here; names by their codes, in quotes.'
          : `After “${text.slice(Math.max(0, read.problem.at - 24), read.problem.at)}” is wanted: ${read.problem.wanted}.`
      }
      onChange={e => {
        setText(e.target.value);
        const now = readSentence(e.target.value);
        if (now.ok) onChange({ ...rule, ...now.value });
      }}
    />
  );
}
