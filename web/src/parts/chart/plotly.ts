// Lines, steps and bars are all that Auk draws with it so far; the rest of the library stays out of the bundle.
import bar from 'plotly.js/lib/bar';
import * as Plotly from 'plotly.js/lib/core';

const library = Plotly.default ?? Plotly;
library.register(bar);

export const { react, purge } = library;
