import type ts from 'typescript';
export const locales: string[];
export function files(): string[];
export function parse(file: string): ts.SourceFile;
export function messages(): Map<string, string>;
export function catalogue(locale: string): Record<string, string>;
