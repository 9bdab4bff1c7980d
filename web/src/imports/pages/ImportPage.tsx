import { type ImportKind } from '@auk/contract';
import { count, type Mapping } from '@auk/core';
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { v7 } from 'uuid';
import { Refused } from '../../api.js';
import { channelsQuery } from '../../channels/api.js';
import { Choice } from '../../parts/Choice.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { previewFile, runQuery, saveBadRows, takeFile } from '../api.js';
import css from '../imports.module.css';
import { KINDS } from '../kinds.js';
import { ColumnsOfFile } from '../parts/ColumnsOfFile.js';
import { DropFile } from '../parts/DropFile.js';
import { Report } from '../parts/Report.js';
import { LatelyBrought, Progress, useRun } from '../parts/runs.js';

/** A file on its way in: what it is, what it would do, and the run that takes it. */
function useBringing() {
  const [params, setParams] = useSearchParams();
  const kind = (params.get('kind') ?? 'orders') as ImportKind;
  const about = KINDS[kind] ?? KINDS.orders;
  const [channel, setChannel] = useState(params.get('channel') ?? '');
  const [file, setFile] = useState<File | null>(null);
  const [mapping, setMapping] = useState<Mapping | null>(null);
  const client = useQueryClient();
  const channels = useQuery(channelsQuery);
  const question = (f: File, m: Mapping | null) => ({
    channel: about.ofChannel ? channel : 'house',
    name: f.name,
    ...(m ? { mapping: JSON.stringify(m) } : {}),
  });
  const preview = useMutation({
    mutationFn: ([f, m]: [File, Mapping | null]) => previewFile(kind, question(f, m), f),
  });
  const runId = params.get('run');
  const run = useRun(runId);
  const take = useMutation({
    mutationFn: ([f, id]: [File, string]) => takeFile(kind, question(f, mapping), id, f),
    onSuccess: begun => {
      client.setQueryData(runQuery(begun.id).queryKey, begun);
      setParams({ kind, run: begun.id }, { replace: true });
    },
    retry: (times, error) => times < 5 && !(error instanceof Refused),
  });
  const bad = useMutation({
    mutationFn: (f: File) => saveBadRows(kind, question(f, mapping), f),
  });
  const reset = (next: ImportKind = kind) => {
    preview.reset();
    take.reset();
    setFile(null);
    setMapping(null);
    setParams({ kind: next }, { replace: true });
  };
  const look = (f: File | undefined, m: Mapping | null) => {
    if (!f) return;
    if (runId) setParams({ kind }, { replace: true });
    setFile(f);
    setMapping(m);
    take.reset();
    preview.mutate([f, m]);
  };
  const report = runId ? run.data?.report : preview.data;
  const coming = report && !runId ? report.counts.new + report.counts.changed : 0;
  return {
    kind,
    about,
    channel,
    channels: channels.data ?? [],
    file,
    preview,
    take,
    bad,
    run,
    runId,
    report,
    coming,
    setChannel,
    reset,
    look,
    open: (r: { kind: ImportKind; id: string }) => setParams({ kind: r.kind, run: r.id }),
  };
}

/** Bring in a file: drop it, say which column is what, see what it would do, take the good rows. */
export default function ImportPage() {
  const now = useBringing();
  const { about, channel, file, preview, take, bad, run, runId, report, coming } = now;
  return (
    <>
      <Head
        title="Bring in"
        about={
          <>
            {about.hint} CSV or XLSX, heading first.{' '}
            <Link to="/setup/channels">Channels are asked by themselves.</Link>
          </>
        }
      >
        {report && coming > 0 && (
          <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate([file!, v7()])}>
            {take.isPending ? 'Sending …' : `Bring in ${count(coming, about.thing)}`}
          </Button>
        )}
      </Head>
      <What now={now} />
      {(channel !== '' || !about.ofChannel) && (
        <DropFile small={file !== null} onFile={f => now.look(f, null)}>
          {preview.isPending
            ? 'Reading …'
            : file
              ? `${file.name} — drop another`
              : 'Drop the file here, or press to choose it'}
        </DropFile>
      )}
      {channel === '' && about.ofChannel && (
        <p className={textCss.empty}>Say first which channel the file is from; then drop it here.</p>
      )}
      <ProblemNote error={preview.error ?? take.error ?? bad.error ?? run.error} />
      {runId && run.data && run.data.state !== 'done' && <Progress run={run.data} thing={about.thing} />}
      {!report && !runId && <LatelyBrought open={now.open} />}
      {report && (run.data?.state === 'done' || !runId) && (
        <div className={css.importview}>
          <div>
            <Report report={report} thing={about.thing} mend={file ? () => bad.mutate(file) : null} />
          </div>
          <ColumnsOfFile
            report={report}
            change={(field, at) => now.look(file!, mapped(report.mapping, field, at))}
          />
        </div>
      )}
    </>
  );
}

/** What the file is of, and which channel it is from. */
function What({ now }: { now: ReturnType<typeof useBringing> }) {
  return (
    <div className={css.ask}>
      <Tabs
        value={now.kind in KINDS ? now.kind : 'orders'}
        aria-label="What"
        onChange={(_, k: ImportKind) => now.reset(k)}
        variant="scrollable"
      >
        {(Object.keys(KINDS) as ImportKind[]).map(k => (
          <Tab key={k} value={k} label={KINDS[k].words} />
        ))}
      </Tabs>
      {now.about.ofChannel && (
        <Choice
          label="Channel"
          value={now.channel}
          options={[['', 'Choose …'], ...now.channels.map(c => [c.code, c.name] as const)]}
          onChoose={code => {
            now.reset();
            now.setChannel(code);
          }}
        />
      )}
    </div>
  );
}

/** The mapping with a field read from another column, or from none; a column is read for one field. */
function mapped(mapping: Mapping, field: string, at: number): Mapping {
  const next = { ...mapping };
  for (const [f, column] of Object.entries(next)) if (column === at) delete next[f];
  if (at === -1) delete next[field];
  else next[field] = at;
  return next;
}
