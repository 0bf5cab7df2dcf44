<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Audio\Decibel;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\Alignment;
use Hafen\Routing\Route;
use Hafen\Routing\RouteKind;
use Hafen\Routing\SessionGraph;
use Hafen\Routing\SignalPath;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** A signal path with its gains and latencies, as lines of text, a Mermaid flowchart or a Graphviz digraph. */
final readonly class PathWriter
{
    private Alignment $alignment;

    public function __construct(private Session $session, private ProcessorCatalogue $processors)
    {
        $this->alignment = SessionGraph::alignment($session, $processors);
    }

    public function text(SignalPath $path): string
    {
        $lines = ["Path of {$path->channel->name}"];
        foreach ($path->channels as $channel) {
            $lines[] = '';
            $lines[] = "{$channel->name} ({$channel->kind->word()})".($channel->id === $path->channel->id ? '  <-' : '');
            foreach ($this->facts($channel) as $fact) {
                $lines[] = "    {$fact}";
            }
            foreach ($path->routes as $route) {
                if ($route->from === $channel->id) {
                    $lines[] = "    {$this->way($route)} -> {$this->name($route->to)}";
                }
            }
            if ($channel->kind->endsAtInterface()) {
                $lines[] = "    output -> {$channel->output}";
            }
        }

        return implode("\n", $lines);
    }

    public function mermaid(SignalPath $path): string
    {
        $plain = static fn (string $text): string => str_replace(['&', '"', '<', '>'], ['&amp;', '&quot;', '&lt;', '&gt;'], $text);
        $lines = ['flowchart LR'];
        foreach ($path->channels as $channel) {
            $label = implode('<br/>', array_map($plain, [$channel->name, ...$this->facts($channel)]));
            $lines[] = "    {$this->node($channel->id)}[\"{$label}\"]";
        }
        foreach ($path->routes as $route) {
            $arrow = $route->isOn() ? '-->' : '-.->';
            $lines[] = "    {$this->node($route->from)} {$arrow}|\"{$plain($this->way($route))}\"| {$this->node($route->to)}";
        }

        return implode("\n", $lines);
    }

    public function dot(SignalPath $path): string
    {
        $plain = static fn (string $text): string => addcslashes($text, '"\\');
        $lines = ['digraph path {', '    rankdir=LR;', '    node [shape=box];'];
        foreach ($path->channels as $channel) {
            $label = implode('\n', array_map($plain, [$channel->name, ...$this->facts($channel)]));
            $lines[] = "    \"{$channel->id}\" [label=\"{$label}\"];";
        }
        foreach ($path->routes as $route) {
            $style = $route->isOn() ? '' : ', style=dashed';
            $lines[] = "    \"{$route->from}\" -> \"{$route->to}\" [label=\"{$plain($this->way($route))}\"{$style}];";
        }

        return implode("\n", [...$lines, '}']);
    }

    /** @return list<string> */
    private function facts(Channel $channel): array
    {
        $facts = [];
        if ($channel->trim->gain !== 0.0 || $channel->trim->invert) {
            $facts[] = "trim {$this->gain($channel->trim->gain)}".($channel->trim->invert ? ', polarity inverted' : '');
        }
        foreach (['inserts' => $channel->inserts, 'after the fader' => $channel->postInserts] as $what => $row) {
            if ($row !== []) {
                $facts[] = "{$what}: ".implode(', ', array_map($this->insert(...), $row)).($channel->insertsOn ? '' : ' (bypassed)');
            }
        }
        $facts[] = "fader {$this->gain($channel->fader)}".($channel->mute ? ', muted' : '').($channel->pan !== 0.0 ? sprintf(', pan %+.2f', $channel->pan) : '');
        $facts[] = 'latency '.$this->samples($this->alignment->own[$channel->id])
            .', enters at '.$this->samples($this->alignment->arrival[$channel->id])
            .($channel->aligned ? '' : ', not aligned');

        return $facts;
    }

    private function insert(Insert $insert): string
    {
        if ($insert instanceof Split) {
            $branches = array_map(fn ($branch): string => "{$branch->name} {$this->gain($branch->gain)}".($branch->inserts === [] ? '' : ' ['.implode(', ', array_map($this->insert(...), $branch->inserts)).']'), $insert->branches);

            return 'split ('.implode(' | ', $branches).')'.($insert->on ? '' : ' off');
        }
        if ($insert instanceof HardwareInsert) {
            return 'hardware '.($this->session->loop($insert->loop)->name ?? $insert->loop).($insert->mix < 1.0 ? sprintf(' %d %%', (int) round($insert->mix * 100)) : '').($insert->on ? '' : ' off');
        }
        assert($insert instanceof ProcessorInsert);

        return trim($this->processors->label($insert->processor, $insert->parameters)).($insert->mix < 1.0 ? sprintf(' %d %%', (int) round($insert->mix * 100)) : '').($insert->on ? '' : ' off');
    }

    private function way(Route $route): string
    {
        $text = match ($route->kind) {
            RouteKind::Output => 'output',
            RouteKind::Tap => 'tap '.$route->tap->words(),
            RouteKind::Sidechain => 'key '.$route->tap->words(),
            RouteKind::Send => 'send '.$this->gain($route->gain()).' '.$route->tap->words().($route->isOn() ? '' : ', off'),
        };
        $delay = $this->alignment->delay($route);
        $offset = $this->alignment->offsets[$route->id()] ?? 0;

        return $text.($delay > 0 ? ', waits '.$this->samples($delay) : '').($offset !== 0 ? sprintf(', out of time by %s, first notch %.0f Hz', $this->samples($offset), $this->session->sampleRate / (2 * abs($offset))) : '');
    }

    private function gain(?float $gain): string
    {
        return Decibel::text($gain, 'dB', true);
    }

    private function samples(int $samples): string
    {
        return $samples === 0 ? '0' : sprintf('%d samples (%.2f ms)', $samples, 1000 * $samples / $this->session->sampleRate);
    }

    private function name(string $channel): string
    {
        return $this->session->channel($channel)->name ?? $channel;
    }

    private function node(string $channel): string
    {
        return 'c'.array_search($channel, array_map(static fn (Channel $other): string => $other->id, $this->session->channels), true);
    }
}
