/** The weights of alerts, as they are chosen from. */
export const severities = [
  { value: 1, name: 'every one' },
  { value: 2, name: 'minor' },
  { value: 3, name: 'moderate' },
  { value: 4, name: 'serious' },
  { value: 5, name: 'grave alone' },
]
