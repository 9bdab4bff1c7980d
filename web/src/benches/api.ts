import {
  BenchesView,
  type BenchIn,
  BenchOfDevice,
  type PrinterIn,
  PrintJobRow,
  Weighed,
} from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { heldOr } from '../held.js';
import { deviceId } from '../scans/device.js';

/** Benches and printers of the house. */
export const benchesQuery = queryOptions({
  queryKey: ['benches'],
  queryFn: () => get(BenchesView, 'benches'),
});

/** The bench that this device stands at. */
export const myBenchQuery = queryOptions({
  queryKey: ['benches', 'mine'],
  queryFn: () =>
    heldOr('my bench', () => get(BenchOfDevice, `benches/mine?device=${encodeURIComponent(deviceId())}`)),
});

/** This device stands at a bench from now on. */
export const takeBench = (code: string) =>
  post(BenchOfDevice, `benches/${encodeURIComponent(code)}/take`, { device: deviceId() });

/** What lies on the scale of a bench now. */
export const weighAt = (benchId: string) => get(Weighed, `benches/${benchId}/weight`);

export const saveBench = (bench: BenchIn) => send('benches', bench);
export const savePrinter = (printer: PrinterIn) => send('benches/printers', printer);

/** What waits for printers, and what came out of them; of one printer, or of all. */
export const trayQuery = (printer: string) =>
  queryOptions({
    queryKey: ['tray', printer],
    queryFn: () => get(PrintJobRow.array(), `benches/tray${printer ? `?printer=${printer}` : ''}`),
  });

export const printAgain = (id: string) => send(`benches/tray/${id}/again`);
