namespace YardRelay.Peers;

/// <summary>A folder that is gone when the test ends, whatever modes its content has.</summary>
public sealed class TempFolder : IDisposable
{
    public TempFolder() => Directory.CreateDirectory(At);

    public string At { get; } = Path.Combine(Path.GetTempPath(), "yard-test-" + Guid.NewGuid().ToString("N")[..12]);

    public string this[string name] => Path.Combine(At, name);

    public string Make(string name)
    {
        Directory.CreateDirectory(this[name]);
        return this[name];
    }

    public void Dispose() => Run.Quietly("rm", "-rf", At);
}
