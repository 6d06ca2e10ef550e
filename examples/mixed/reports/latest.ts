export const latest = async (): Promise<string[]> => (await fetch('/reports/latest')).json();
