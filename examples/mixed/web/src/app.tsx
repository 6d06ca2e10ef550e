import { useState } from 'react';
import { bookings } from './bookings';

export function App() {
  const [lines, setLines] = useState<string[]>([]);
  return <button onClick={async () => setLines(await bookings('Heron'))}>{lines.length} bookings</button>;
}
