/** Every browser is told when a picture was read. */
export default {
  recipe: 'Add an event',
  edits: [
    {
      file: 'contract/src/events.ts',
      behind: "  z.object({ kind: z.literal('planned') }),\n",
      put: "  z.object({ kind: z.literal('pictured'), picture: z.string() }),\n",
    },
  ],
  spec: `
  it('is heard by every open browser', async () => {
    const heard = await server.hear();
    await tellAlone(server.db, { kind: 'pictured', picture: '7' });
    expect(await heard.stop()).toContain({ kind: 'pictured', picture: '7' });
  });
`,
};
