import { useEffect, useRef, useState } from 'react';

/** Takes files that are dropped anywhere on the page. @returns whether one is being dragged over it */
export function useDroppedFile(onFile: (file: File) => void): boolean {
  const [dragged, setDragged] = useState(false);
  const latest = useRef(onFile);
  latest.current = onFile;
  useEffect(() => {
    const over = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes('Files')) return;
      event.preventDefault();
      setDragged(true);
    };
    const leave = (event: DragEvent) => {
      if (!event.relatedTarget) setDragged(false);
    };
    const drop = (event: DragEvent) => {
      const [file] = event.dataTransfer?.files ?? [];
      setDragged(false);
      if (!file) return;
      event.preventDefault();
      latest.current(file);
    };
    window.addEventListener('dragover', over);
    window.addEventListener('dragleave', leave);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('drop', drop);
    };
  }, []);
  return dragged;
}
