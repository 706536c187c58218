/** What readings say they were made by; a change in any measure raises it. */
export const GENERATOR = 'aurora-glade 0.2.6';
