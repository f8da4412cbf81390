// Shared machines can be many times slower than usual for minutes; a limit is there for what hangs.
jest.setTimeout(120_000);
