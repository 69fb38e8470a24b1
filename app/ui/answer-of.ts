/** What one of our own addresses answered. Its type is the word of whoever asks, as is that of what a page was given. */
export const answerOf = async <T>(answer: Response): Promise<T> => (await answer.json()) as T; // the server and the page are built together
