/** From some day in storage on a month costs so many times as much. */
export interface StorageStep {
  afterDays: number;
  times: number;
}

/** Days of a month, on average. */
const MONTH = 365.25 / 12;

/**
 * What a unit costs in storage on average until all are sold, where they are sold evenly over so many weeks: each day what is still there
 * costs a day of the month's price, as many times as that day costs. `monthMinor`: minor units a unit and month; not rounded. Example: 4.00 a
 * month over eight weeks are 3.68, for half of it lies there on average.
 */
export function storageMinor(monthMinor: number, weeks: number, steps: readonly StorageStep[]): number {
  const days = weeks * 7;
  let sum = 0;
  for (let day = 0; day < days; day++) {
    const times = steps.reduce((now, s) => (day >= s.afterDays ? s.times : now), 1);
    sum += ((days - day - 0.5) / days) * times;
  }
  return (sum * monthMinor) / MONTH;
}
