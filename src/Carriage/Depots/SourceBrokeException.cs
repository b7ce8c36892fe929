namespace YardRelay.Carriage.Depots;

/// <summary>Reading the content failed, not the depot; a retry of the request does not help.</summary>
internal sealed class SourceBrokeException(string why, Exception? inner = null) : IOException(why, inner);
