export type Light = 'day' | 'night';

/** The light a cookie asks for; day when it says nothing. */
export const lightOf = (value: string | undefined): Light => (value === 'night' ? 'night' : 'day');
