import { useLayoutEffect, useState, type RefObject } from 'react';

/** The width of an element in pixels, as it changes. */
export function useWidth(frame: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(800);
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.floor(entry.contentRect.width)));
    observer.observe(element);
    return () => observer.disconnect();
  }, [frame]);
  return width;
}
