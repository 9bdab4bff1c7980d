import InputBase from '@mui/material/InputBase';
import type { ChangeEvent, ReactNode } from 'react';
import pageCss from './page.module.css';
import textCss from './text.module.css';

interface Props {
  label: string;
  accept: string;
  onFile: (file: File) => void;
  className?: string;
  children: ReactNode;
}

/** Something that is pressed, or tabbed to and opened by Space, to choose a file. */
export function FilePick({ label, accept, onFile, className = '', children }: Props) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is MUI's, within it
    <label className={`${pageCss.pick} ${className}`}>
      {children}
      <InputBase
        type="file"
        className={textCss.hidden}
        inputProps={{ 'aria-label': label, accept }}
        onChange={(e: ChangeEvent<HTMLInputElement>) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
          // The same file can be chosen again after it was mended.
          e.target.value = '';
        }}
      />
    </label>
  );
}
