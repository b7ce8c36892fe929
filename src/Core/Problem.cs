namespace YardRelay.Core;

/// <summary>Why something asked for did not happen, as data: the caller decides about it.</summary>
/// <param name="Code">For programs, stable: <c>area.what</c>.</param>
/// <param name="Message">For people: what did not happen, to which thing, why, and what to do.</param>
public record Problem(string Code, string Message);
