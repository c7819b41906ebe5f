import { createContext, type RefObject } from 'react';

/** The element that scrolls the sheet, for lists so long that only what is seen of them is drawn. */
export const SheetScroll = createContext<RefObject<HTMLElement | null>>({ current: null });
