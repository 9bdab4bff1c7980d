import { SubNav } from '../../parts/SubNav.js';

/** The places of Setup. */
export const SetupNav = () => (
  <SubNav
    name="Setup"
    pages={[
      ['/setup/channels', 'Channels'],
      ['/setup/carriers', 'Carriers'],
      ['/setup/papers', 'Papers'],
      ['/setup/mails', 'Mails'],
      ['/setup/floor', 'Floor'],
      ['/setup/benches', 'Benches'],
      ['/setup/tray', 'Print tray'],
      ['/setup/boxes', 'Boxes'],
      ['/setup/people', 'People'],
      ['/setup/upkeep', 'Upkeep'],
    ]}
  />
);
