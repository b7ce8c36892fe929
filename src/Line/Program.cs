using YardRelay.Line;
using YardRelay.Line.Shown;

return await CommandLine.RunAsync(args, Surroundings.Here);
