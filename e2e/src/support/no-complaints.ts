import { afterEach, expect } from 'vitest';
import { takeComplaints } from './complaints';

// Whatever a test is about, no page complains in its console meanwhile.
afterEach(() => expect(takeComplaints()).toEqual([]));
