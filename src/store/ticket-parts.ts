/** What may stay in the ticket after it was sent, part by part. */
export const TICKET_PARTS = ['side', 'size', 'price', 'life', 'condition', 'exits'] as const;
export type TicketPart = (typeof TICKET_PARTS)[number];
