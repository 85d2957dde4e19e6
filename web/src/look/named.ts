/** What one of a family is called away from its look. */
export const named = (look: string, member: string | null | undefined): string =>
  member ? `${look}, ${member}` : look;
