import Box from '@mui/material/Box';
import { type DragEvent, type ReactNode, useState } from 'react';
import { FilePick } from '../../parts/FilePick.js';
import css from '../imports.module.css';

const ACCEPT =
  '.csv,.tsv,.txt,.xlsx,text/csv,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

interface Props {
  /** A file is here already: the field makes room for what it holds. */
  small: boolean;
  onFile: (file: File) => void;
  children: ReactNode;
}

/** Where a file is dropped, or chosen by pressing. */
export function DropFile({ small, onFile, children }: Props) {
  const [over, setOver] = useState(false);
  const holding = (is: boolean) => (e: DragEvent) => {
    e.preventDefault();
    setOver(is);
  };
  return (
    <Box
      onDragOver={holding(true)}
      onDragLeave={holding(false)}
      onDrop={e => {
        holding(false)(e);
        const file = e.dataTransfer.files[0];
        if (file) onFile(file);
      }}
    >
      <FilePick
        label="File"
        accept={ACCEPT}
        onFile={onFile}
        className={`${css.drop} ${small ? css.small : ''} ${over ? css.over : ''}`}
      >
        <b>{children}</b>
      </FilePick>
    </Box>
  );
}
