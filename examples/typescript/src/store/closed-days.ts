import { readFileSync } from 'node:fs';

export const closedDays = (): Set<string> => new Set(readFileSync('closed.txt', 'utf8').split('\n'));
