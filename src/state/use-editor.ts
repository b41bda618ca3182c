'use client';
import { useStore } from 'zustand';
import { editorStore } from './editor-store';
import type { EditorState } from './editor-store';

export const useEditor = <T>(selector: (state: EditorState) => T): T =>
  useStore(editorStore, selector);
