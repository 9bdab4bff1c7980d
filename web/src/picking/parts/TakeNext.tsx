import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { ProblemNote } from '../../parts/problem.js';
import { playTone } from '../../scans/sounds.js';
import { useScanner } from '../../scans/useScanner.js';
import { takeNext } from '../api.js';
import css from '../floor.module.css';

/** The code of the scan sheet that takes the next list. */
export const NEXT = 'AUK-NEXT';

/** Takes the list that is next, and goes to it. */
export function useTakeNext() {
  const navigate = useNavigate();
  return useMutation({
    mutationFn: takeNext,
    onSuccess: got => navigate(`/floor/${got.state.listNo}`),
    onError: () => playTone('wrong'),
  });
}

/** After a list: the next one, by press, by the scan sheet, or by itself once this one is dropped at a staging place. */
export function TakeNext({ dropped }: { dropped: boolean }) {
  const next = useTakeNext();
  // What was dropped before this was shown has had its next list already.
  const before = useRef(dropped);
  const { mutate } = next;
  useEffect(() => {
    if (dropped && !before.current) mutate();
    before.current = dropped;
  }, [dropped, mutate]);
  useScanner(() => next.mutate(), { takes: text => text.trim().toUpperCase() === NEXT });
  return (
    <>
      <Button
        variant="contained"
        className={css.bigbutton}
        disabled={next.isPending}
        onClick={() => next.mutate()}
      >
        Take the next list
      </Button>
      <ProblemNote error={next.error} />
    </>
  );
}
