namespace YardRelay.Peers;

/// <summary>A folder that is gone when the test ends, whatever modes its content has.</summary>
public sealed class TempFolder : IDisposable
{
    /// <param name="under">Where it is; null: where the system has its own.</param>
    public TempFolder(string? under = null)
    {
        At = Path.Combine(under ?? Path.GetTempPath(), "yard-test-" + Guid.NewGuid().ToString("N")[..12]);
        Directory.CreateDirectory(At);
    }

    public string At { get; }

    public string this[string name] => Path.Combine(At, name);

    public string Make(string name)
    {
        Directory.CreateDirectory(this[name]);
        return this[name];
    }

    public void Dispose() => Run.Quietly("rm", "-rf", At);
}
