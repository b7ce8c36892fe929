using YardRelay.Service.Problems;

namespace YardRelay.Service.Facts;

/// <summary>Nothing is worked or signed any more.</summary>
internal sealed record SwapCalledOff(string Name, string? Because) : ServiceProblem(
    "swap.called-off", $"The swap of {Name} is called off: {Because} Resume it first.", 409);
