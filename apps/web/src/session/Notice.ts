/** A line to the user: what could not be done, or what was. */
export interface Notice {
  kind: 'refused' | 'done';
  text: string;
}
