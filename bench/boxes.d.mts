import type { Box, Piece, Placed, Size } from '@auk/core';

export declare const BOXES: Box[];
export declare function cost(box: Box, weightMg: number): number;
export declare function anOrder(random: () => number): Piece[];
export declare function byLibrary(box: Box, pieces: readonly Piece[]): Placed[] | null;
export declare function boxesByLibrary(box: Box, pieces: readonly Piece[]): number;
export declare function libraryCost(boxes: readonly Box[], pieces: readonly Piece[]): number;
export declare function cut(space: Size, count: number, random: () => number): Piece[];
