using System.Collections.Concurrent;
using System.Threading.Channels;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Tells whoever looks at a workspace that its traffic changed. Safe for many threads.</summary>
public sealed class LiveTraffic
{
    private readonly ConcurrentDictionary<Listener, Guid> _listeners = new();

    /// <summary>How many listen.</summary>
    public int Listeners => _listeners.Count;

    /// <summary>Hears of a workspace's changes until disposed of. Changes nobody took yet are one.</summary>
    public Listener Listen(Guid workspaceId)
    {
        var listener = new Listener(this);
        _listeners[listener] = workspaceId;
        return listener;
    }

    /// <summary>A workspace's traffic changed.</summary>
    public void Tell(Guid workspaceId)
    {
        foreach (var (listener, its) in _listeners)
        {
            if (its == workspaceId)
            {
                listener.Tell();
            }
        }
    }

    /// <summary>Any workspace's may have: some changes were not heard of.</summary>
    public void TellAll()
    {
        foreach (var (listener, _) in _listeners)
        {
            listener.Tell();
        }
    }

    /// <summary>One that listens.</summary>
    public sealed class Listener(LiveTraffic all) : IDisposable
    {
        private readonly Channel<bool> _told = Channel.CreateBounded<bool>(
            new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite }
        );

        /// <summary>Waits for a change.</summary>
        public async Task WaitAsync(CancellationToken cancel) => await _told.Reader.ReadAsync(cancel);

        public void Dispose() => all._listeners.TryRemove(this, out _);

        internal void Tell() => _told.Writer.TryWrite(true);
    }
}
