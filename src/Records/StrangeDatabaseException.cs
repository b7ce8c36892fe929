namespace YardRelay.Records;

/// <summary>A database that another version made and this one cannot go on from. Nothing in it was changed.</summary>
/// <param name="message">What was found, and which version to start instead.</param>
public sealed class StrangeDatabaseException(string message) : Exception(message);
