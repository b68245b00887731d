import { listen, type StandIn } from '../listen.ts';
import { engineApp, type Mood } from './app.ts';

export { checkItem, type Reply } from './checkItem.ts';
export { type Mood } from './app.ts';

export const startEngine = (port: number, mood?: () => Mood): Promise<StandIn> => listen(engineApp(mood), port);
