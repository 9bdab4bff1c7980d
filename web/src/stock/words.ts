/** Kinds of places in words of the floor. */
export const KIND_WORDS: Record<string, string> = {
  bin: 'pick face',
  reserve: 'reserve',
  dock: 'dock',
  staging: 'staging',
  bench: 'bench',
  quarantine: 'quarantine',
  missing: 'not found',
};

/** Why a move was made, in words. */
export const WHY_WORDS: Record<string, string> = {
  receive: 'received',
  'not received': 'scanned wrongly, taken back',
  'put away': 'put away',
  pick: 'picked',
  sort: 'sorted at the put wall',
  'put back': 'put back',
  pack: 'packed',
  unpack: 'unpacked',
  depart: 'departed',
  missing: 'not found at picking',
  count: 'counted',
  move: 'moved',
  'write off': 'written off',
  build: 'built',
  unbuild: 'taken apart',
  scrap: 'spoiled in a build',
  'left over': 'left over from a build',
  spoiled: 'spoiled while it was prepared',
  'surplus at center': 'counted over at the center',
  'lost on the way': 'lost on the way to the center',
};
