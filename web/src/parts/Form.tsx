import type { ReactNode } from 'react';

interface Props {
  onSend: () => void;
  /** While it is sent, or is not complete, Enter does nothing. */
  ready?: boolean;
  className?: string;
  label?: string;
  children: ReactNode;
}

/** The one form of the house: Enter sends it, the page never reloads, and nothing is sent twice by two presses. */
export function Form({ onSend, ready = true, className, label, children }: Props) {
  return (
    <form
      noValidate
      className={className}
      aria-label={label}
      onSubmit={e => {
        e.preventDefault();
        // A form in a dialog is a child of the page's form in React, though not on the page.
        e.stopPropagation();
        if (ready) onSend();
      }}
    >
      {children}
    </form>
  );
}
