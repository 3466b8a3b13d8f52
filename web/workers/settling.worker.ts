import { expose } from 'comlink';
import { judge } from './settling-judge.ts';

expose(judge);
