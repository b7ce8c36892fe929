namespace YardRelay.Core.Planning;

/// <summary>Rules that a search for a place may set aside, to find out which one stands in the way.</summary>
[Flags]
internal enum Relaxed
{
    None = 0,
    Benches = 1,
    Technician = 2,
    Capacity = 4,
    Daily = 8,
    Release = 16,
    Order = 32,
    Shift = 64,
    Window = 128,
    Skill = 256,
    Pin = 512,
    Groups = 1024,
}
