
namespace YardRelay.Carriage.Trees;

/// <summary>An open folder shared by the walk and by the work on its files; closed when the last of them lets go.</summary>
internal sealed class SharedFolder(OpenFolder folder)
{
    private int _users = 1;

    public OpenFolder Opened => folder;

    public SharedFolder Share()
    {
        Interlocked.Increment(ref _users);
        return this;
    }

    public void Release()
    {
        if (Interlocked.Decrement(ref _users) == 0) folder.Dispose();
    }
}
