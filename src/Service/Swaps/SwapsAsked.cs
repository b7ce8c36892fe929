namespace YardRelay.Service.Swaps;

/// <summary>A page of swaps as a caller asks for it.</summary>
/// <param name="Q">A part of a name, id, tag or room.</param>
/// <param name="Cursor">Where the page before ended; empty for the first.</param>
/// <param name="Limit">How many at most.</param>
internal sealed record SwapsAsked(
    string? Q, string? Site, string? Technician, string? Kind, string? Next, string? Sort, string? Cursor, int Limit);
