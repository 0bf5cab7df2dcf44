<?php

declare(strict_types=1);

namespace Hafen\Session;

/**
 * One path: source, trim, inserts, fader, pan, inserts after the fader, output.
 *
 * Gains in dB (null is silence), pan from -1 (left) to +1 (right). `output` is a channel id, "none" or an interface
 * pair such as "hw:1-2".
 */
final readonly class Channel
{
    use Copies;

    /**
     * @param  list<Insert>  $inserts
     * @param  list<Insert>  $postInserts
     */
    public function __construct(
        public string $id,
        public ChannelKind $kind,
        public string $name,
        public Width $width,
        public Source $source,
        public ChannelTrim $trim = new ChannelTrim,
        public bool $insertsOn = true,
        public array $inserts = [],
        public ?float $fader = 0.0,
        public float $pan = 0.0,
        public bool $mute = false,
        public bool $solo = false,
        public bool $soloSafe = false,
        public array $postInserts = [],
        public string $output = 'main',
    ) {
    }

    /** @return list<Insert> */
    public function row(Row $row): array
    {
        return $row === Row::Inserts ? $this->inserts : $this->postInserts;
    }

    /** @return list<Insert> both rows, in order */
    public function allInserts(): array
    {
        return [...$this->inserts, ...$this->postInserts];
    }

    public function withName(string $name): self
    {
        return $this->copy(name: $name);
    }

    public function withWidth(Width $width): self
    {
        return $this->copy(width: $width);
    }

    public function withSource(Source $source): self
    {
        return $this->copy(source: $source);
    }

    public function withTrim(ChannelTrim $trim): self
    {
        return $this->copy(trim: $trim);
    }

    public function withInsertsOn(bool $on): self
    {
        return $this->copy(insertsOn: $on);
    }

    /** @param  list<Insert>  $inserts */
    public function withRow(Row $row, array $inserts): self
    {
        return $row === Row::Inserts ? $this->copy(inserts: $inserts) : $this->copy(postInserts: $inserts);
    }

    public function withFader(?float $gain): self
    {
        return $this->copy(fader: $gain);
    }

    public function withPan(float $pan): self
    {
        return $this->copy(pan: $pan);
    }

    public function withMute(bool $mute): self
    {
        return $this->copy(mute: $mute);
    }

    public function withSolo(bool $solo): self
    {
        return $this->copy(solo: $solo);
    }

    public function withSoloSafe(bool $soloSafe): self
    {
        return $this->copy(soloSafe: $soloSafe);
    }
}
