import { createContext, use } from 'react';

/** Whether the live column is open beside the place, and how it is opened and closed. */
export const WatchContext = createContext<{ watching: boolean; watch: (open: boolean) => void }>({
  watching: false,
  watch: () => {},
});

export const useWatch = () => use(WatchContext);
