import { can } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { changed } from '../../asked.js';
import { setPause, spendingQuery } from '../../parts/api.js';
import { say } from '../../parts/say.js';
import { useMe } from '../../people/useMe.js';

/** The pause of buying unattended, where rules buy at all. Anybody may pause it; to let it go on is a right. */
export default function BuyingSwitch() {
  const client = useQueryClient();
  const mayResume = can(useMe(), 'rules.spend');
  const spending = useQuery(spendingQuery);
  const pause = useMutation({
    mutationFn: setPause,
    onSuccess: async (_, paused) => {
      await changed(client, 'rules');
      say(paused ? 'Nothing more is bought unattended.' : 'Rules may buy again, within their caps.');
    },
    onError: error => say(error.message),
  });
  if (!spending.data || !(spending.data.buys || spending.data.paused)) return null;
  const { paused } = spending.data;
  return (
    <Button
      size="small"
      variant="outlined"
      color="inherit"
      sx={{ flex: 'none', whiteSpace: 'nowrap' }}
      aria-pressed={paused}
      disabled={pause.isPending || (paused && !mayResume)}
      title={paused ? 'Rules buy no labels until the pause is lifted.' : 'Stops all that rules would buy.'}
      onClick={() => pause.mutate(!paused)}
    >
      <span aria-hidden="true">❚❚&nbsp;</span>
      {paused ? 'Buying paused' : 'Pause buying'}
    </Button>
  );
}
