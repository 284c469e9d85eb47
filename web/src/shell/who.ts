/** Who did something, as people read it: what nobody did is done by the program. */
export const who = (by: string) => (by === 'upright-warden' ? 'Upright Warden' : by)
