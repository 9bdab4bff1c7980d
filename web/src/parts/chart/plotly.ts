// Lines and steps are all that Auk draws with it so far; the rest of the library stays out of the bundle.
import * as Plotly from 'plotly.js/lib/core';

export const { react, purge } = Plotly.default ?? Plotly;
