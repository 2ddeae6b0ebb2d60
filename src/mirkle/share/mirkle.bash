# Completion for bash: the commands first, then what each takes.
_mirkle() {
    local commands="open demo desktop review passes read listen" word="${COMP_WORDS[COMP_CWORD]}"
    if [ "$COMP_CWORD" -eq 1 ]; then
        mapfile -t COMPREPLY < <(compgen -W "$commands --version --help" -f -- "$word")
        return
    fi
    case "${COMP_WORDS[1]}" in
        review) local options="--notes --calls --any-road --crew --json --quiet --help" ;;
        passes) local options="--pass --any-road --crew --json --quiet --help" ;;
        desktop) local options="--remove --help" ;;
        read) local options="--calls --crew --json --quiet --help" ;;
        listen) local options="--notes --run --calls --keep --crew --json --quiet --help" ;;
        *) local options="--help" ;;
    esac
    mapfile -t COMPREPLY < <(compgen -W "$options" -f -- "$word")
}
complete -o filenames -F _mirkle mirkle
