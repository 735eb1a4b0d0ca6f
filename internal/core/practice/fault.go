package practice

type faultTable struct{}
