import './statements.js';
import { afterEach, expect } from 'vitest';
import { secondConnections } from './oneConnection.js';

afterEach(() => expect(secondConnections()).toEqual([]));
