/** The ways to split a row, as the finder and the inspector offer them. */
export const splitWays: { id: string; name: string; purpose: string; edit: Record<string, unknown> }[] = [
    {
        id: 'two',
        name: 'Two branches',
        purpose: 'The same sound twice, each with its own effects.',
        edit: { by: 'copies', branches: 2 },
    },
    {
        id: 'three',
        name: 'Three branches',
        purpose: 'The same sound three times.',
        edit: { by: 'copies', branches: 3 },
    },
    {
        id: 'bands-2',
        name: 'Low and high',
        purpose: 'Two bands that add up flat.',
        edit: { by: 'frequency', branches: 2 },
    },
    { id: 'bands-3', name: 'Three bands', purpose: 'Low, mid and high.', edit: { by: 'frequency', branches: 3 } },
    {
        id: 'bands-4',
        name: 'Four bands',
        purpose: 'Low, low mid, high mid and high.',
        edit: { by: 'frequency', branches: 4 },
    },
    { id: 'sides', name: 'Left and right', purpose: 'Each side by itself.', edit: { by: 'left-right' } },
    {
        id: 'mid-side',
        name: 'Mid and side',
        purpose: 'What both sides share, and what they do not.',
        edit: { by: 'mid-side' },
    },
];
