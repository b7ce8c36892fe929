namespace YardRelay.Contracts;

/// <summary>Asks for a plan of all swaps that have no appointment under way.</summary>
/// <param name="Steps">Steps of search, 0 to 1,000,000; the same steps and seed give the same plan.</param>
public sealed record PlanWanted(long Steps = 20_000, int Seed = 1);

/// <summary>An appointment: first hands-on part, unattended part, last hands-on part.</summary>
public sealed record AppointmentSeen(string Swap, string Person, string Site, string? Room, string Technician, DateTimeOffset Start, DateTimeOffset HandsOnUntil, DateTimeOffset Finish, DateTimeOffset End);

/// <summary>A swap without an appointment, and why.</summary>
public sealed record LeftOutSeen(string Swap, string Person, string Because);

/// <summary>The plan of a refresh.</summary>
public sealed record PlanSeen(IReadOnlyList<AppointmentSeen> Appointments, IReadOnlyList<LeftOutSeen> LeftOut, int Cost);
